/** Many files refined, several at a time, each in a thread of its own; what is done is not done again. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { Worker } from 'node:worker_threads';
import * as z from 'zod';
import { readBytes } from '../fonts';
import { UsageError } from '../usage-error';
import type { RefineOptions } from './refine-file';

/** A request to a thread. */
export interface RefineTask {
  path: string;
  target: string;
  options: RefineOptions;
}

/** The outcome for a file. */
export interface Outcome {
  file: string;
  out: string;
  /** `kept` where it was refined before, in the same way. */
  state: 'refined' | 'kept' | 'failed';
  before?: { evenness: number | null; findings: number };
  after?: { evenness: number | null; findings: number };
  notes?: string[];
  error?: string;
}

/** A thread's answer. */
export type WorkerAnswer = Pick<Outcome, 'before' | 'after' | 'notes' | 'error'>;

const REFINABLE = /\.(svg|json)$/i;
/** In the folder that is written to: what was made of what. */
const RECORD = '.jentrix-refined.json';
/** Progress is saved at least this often. */
const SAVE_EVERY_MS = 1000;
const recordSchema = z.record(z.string(), z.string());

/**
 * The files of arguments: folders stand for all SVG and job files in them. What is linked into a folder is left out: it may be anywhere.
 * @param tellOfLink told of each link. @returns each with its name below what was named
 */
export function filesOf(paths: readonly string[], tellOfLink: (path: string) => void = () => undefined): { path: string; name: string }[] {
  return paths.flatMap((path) => {
    let isFolder = false;
    try {
      isFolder = statSync(path).isDirectory();
    } catch (error) {
      throw new UsageError(`“${path}” can’t be read: ${error instanceof Error ? error.message : String(error)}`);
    }
    if (!isFolder) return [{ path, name: relative(dirname(path), path) }];
    const entries = readdirSync(path, { recursive: true, withFileTypes: true });
    for (const entry of entries) if (entry.isSymbolicLink()) tellOfLink(join(entry.parentPath, entry.name));
    const found = entries.filter((entry) => entry.isFile() && REFINABLE.test(entry.name) && entry.name !== RECORD);
    return found
      .map((entry) => join(entry.parentPath, entry.name))
      .sort()
      .map((file) => ({ path: file, name: relative(path, file) }));
  });
}

/**
 * Refines files into a folder, each under its own name.
 * @param jobs how many at a time. @param told called with every file that is through
 */
export async function refineMany(
  paths: readonly string[],
  folder: string,
  options: RefineOptions,
  jobs: number,
  told: (outcome: Outcome, done: number, of: number) => void,
  tellOfLink?: (path: string) => void,
): Promise<Outcome[]> {
  const all = filesOf(paths, tellOfLink);
  if (all.some(({ path, name }) => resolve(path) === resolve(folder, name))) throw new UsageError('--out is the folder the files are in: name another.');
  // What was made before in a folder below is not made again.
  const inside = resolve(folder) + sep;
  const files = all.filter(({ path }) => !resolve(path).startsWith(inside) || paths.includes(path));
  const names = new Set<string>();
  const twice = files.find(({ name }) => names.size === names.add(name).size);
  if (twice) throw new UsageError(`Two of the files are called “${twice.name}”: refine them into folders of their own.`);
  if (statSync(folder, { throwIfNoEntry: false })?.isFile()) throw new UsageError(`--out names a folder, and “${folder}” is a file.`);
  mkdirSync(folder, { recursive: true });
  const record = new Map(Object.entries(readRecord(folder)));
  const outcomes: Outcome[] = [];
  let saved = 0;
  const save = (): void => {
    saved = Date.now();
    writeWhole(join(folder, RECORD), JSON.stringify(Object.fromEntries(record), null, 1));
  };
  const queue = [...files];
  const workers = Array.from({ length: Math.min(jobs, files.length) }, () => new Bench());
  const work = async (bench: Bench): Promise<void> => {
    for (let file = queue.shift(); file; file = queue.shift()) {
      const outcome = await one(file, bench);
      outcomes.push(outcome);
      told(outcome, outcomes.length, files.length);
    }
  };
  const one = async ({ path, name }: { path: string; name: string }, bench: Bench): Promise<Outcome> => {
    const target = join(folder, name);
    const about = { file: path, out: target };
    let key: string;
    try {
      key = createHash('sha256').update(readBytes(path)).update(JSON.stringify(options)).digest('hex');
    } catch (error) {
      return { ...about, state: 'failed', error: error instanceof Error ? error.message : String(error) };
    }
    if (record.get(name) === key && existsSync(target)) return { ...about, state: 'kept' };
    const answer = await bench.ask({ path, target, options });
    if (answer.error !== undefined) return { ...about, state: 'failed', ...answer };
    record.set(name, key);
    if (Date.now() - saved > SAVE_EVERY_MS) save();
    return { ...about, state: 'refined', ...answer };
  };
  try {
    await Promise.all(workers.map(work));
  } finally {
    save();
    await Promise.all(workers.map((bench) => bench.close()));
  }
  return outcomes.sort((a, b) => a.file.localeCompare(b.file));
}

function readRecord(folder: string): Record<string, string> {
  try {
    return recordSchema.parse(JSON.parse(readFileSync(join(folder, RECORD), 'utf8')));
  } catch {
    return {};
  }
}

/** Writes a file so that it is there whole or not at all. */
export function writeWhole(path: string, content: string): void {
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(`${path}.part`, content);
  renameSync(`${path}.part`, path);
}

/** A thread that refines one file after the other; one that ends is replaced. */
class Bench {
  private worker: Worker | undefined;
  private done: (answer: WorkerAnswer) => void = () => undefined;

  ask(task: RefineTask): Promise<WorkerAnswer> {
    this.worker ??= this.started();
    const { worker } = this;
    return new Promise((done) => {
      this.done = done;
      worker.postMessage(task);
    });
  }

  private started(): Worker {
    const worker = new Worker(new URL('../../bin/refine-worker.mjs', import.meta.url));
    const ended = (error: string): void => {
      if (this.worker === worker) this.worker = undefined;
      this.done({ error });
    };
    return worker
      .on('message', (answer: WorkerAnswer) => this.done(answer))
      .on('error', (error) => ended(`It broke off: ${error instanceof Error ? error.message : String(error)}`))
      .on('exit', () => ended('It broke off.'));
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }
}
