/** A command's definition, and the parts that commands share. */
import { readJobFile } from '@jentrix/core/formats';
import { type Block, type Job, type Sheet, type WordRange, allBlocks, sheetOf } from '@jentrix/core/job';
import { readPreferences } from '@jentrix/core/preferences';
import { type Taste, tasteSchema } from '@jentrix/core/taste';
import * as z from 'zod';
import { glyphText } from './fonts';
import type { OptionName, Values } from './options';
import { UsageError } from './usage-error';

// Each file is read once: readers that are compiled first would take longer than they save.
z.config({ jitless: true });

export { glyphText };

/** Where the command writes; specs listen in. */
export interface Output {
  out: (text: string) => void;
  error: (text: string) => void;
}

/** A command: adding one is a file of its own and a line in the table of `commands.ts`, which has its name. */
export interface Command {
  name: string;
  /** Each way to write it, without `jentrix` and the name. */
  usage: readonly string[];
  /** Its purpose, in sentences. */
  says: string;
  /** Arguments of a sensible example, after the command's name. */
  example: string;
  options: readonly OptionName[];
  /** True where it sees packages itself; to others one stands for the job in it. */
  opensPackages?: boolean;
  /** @returns the exit status. @throws WordedError for a mistake in what was given. */
  run(values: Values, files: readonly string[], output: Output): number | Promise<number>;
}

/** @throws UsageError */
export function numberOf(name: string, text: string, min: number, max: number): number {
  const value = Number(text);
  if (text.trim() === '' || !(value >= min && value <= max)) throw new UsageError(`--${name} takes a number from ${min} to ${max}, not “${text}”.`);
  return value;
}

/** One of the values an option takes. @throws UsageError */
export function oneOf<T extends string>(option: string, text: string, values: readonly T[]): T {
  const found = values.find((value) => value === text);
  if (found === undefined) throw new UsageError(`--${option} takes ${values.join(', ')}, not “${text}”.`);
  return found;
}

/** A job file. @throws UsageError, JobFormatError */
export const jobAt = (path: string): Job => readJobFile(glyphText(path));

/** The one job file that a command is given. @throws UsageError, JobFormatError */
export function jobIn(files: readonly string[]): Job {
  const [path, more] = files;
  if (path === undefined || more !== undefined) throw new UsageError('One job file is needed.');
  return jobAt(path);
}

/** Two job files in their order. @throws UsageError, JobFormatError */
export function twoJobsIn(files: readonly string[]): [before: Job, after: Job] {
  const [first, second, more] = files;
  if (first === undefined || second === undefined || more !== undefined) throw new UsageError('Two job files are needed: as it was, and as it is.');
  return [jobAt(first), jobAt(second)];
}

/** A block of a job and its sheet; the first where no identifier is given. @throws UsageError */
export function blockIn(job: Job, id: string | undefined): { sheet: Sheet; block: Block } {
  const block = allBlocks(job).find((one) => id === undefined || one.id === id);
  const sheet = block && sheetOf(job, block.id);
  if (!block || !sheet) throw new UsageError(id === undefined ? 'The job has no words.' : `There is no block “${id}” in the job.`);
  return { sheet, block };
}

/** The hand of a designer in a file: alone, or among exported preferences. @throws UsageError, PreferencesError */
export function tasteIn(path: string | undefined): Taste | undefined {
  if (path === undefined) return undefined;
  const text = glyphText(path);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new UsageError(`“${path}” is not JSON.`);
  }
  const alone = tasteSchema.safeParse(value);
  return alone.success ? alone.data : readPreferences(text).taste;
}

/** Places in words, such as `0-3,7`; all of them where nothing is said. @throws UsageError */
export function rangesIn(text: string | undefined, length: number): WordRange[] {
  if (text === undefined) return [{ start: 0, end: length }];
  return text.split(',').map((part) => {
    const found = /^\s*(\d+)(?:-(\d+))?\s*$/.exec(part);
    const start = Number(found?.[1]);
    const last = Number(found?.[2] ?? found?.[1]);
    if (!found || last < start || last >= length) throw new UsageError(`--range takes places in the words such as 0-3,7, up to ${length - 1}, not “${text}”.`);
    return { start, end: last + 1 };
  });
}
