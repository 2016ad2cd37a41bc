/** Any value as a job. */
import type * as z from 'zod';
import { type Block, type Job, blockSchema, jobSchema, schemaAroundBlocks } from './schema';
import { JobFormatError, upgradeJob } from './upgrade';

/**
 * Checks any value as a job of a known version and brings it up to date.
 * @param sound blocks that need no checking again. @throws JobFormatError saying where and what is wrong.
 */
export function readJob(value: unknown, sound?: SoundBlocks): Job {
  const upgraded = upgradeJob(value);
  const known = sound?.job(upgraded);
  if (known) return known;
  const result = jobSchema.safeParse(upgraded);
  if (result.success) return result.data;
  throw new JobFormatError(`This job is damaged: ${describeIssues(result.error)}`);
}

/** About the most characters of blocks that are remembered. */
const MOST_REMEMBERED = 12_000_000;

/**
 * Blocks that were found sound, by what they say: of a large job that is saved again and again only what an edit has changed is checked.
 * The oldest are forgotten.
 */
export class SoundBlocks {
  private readonly known = new Map<string, Block>();
  private readonly around = schemaAroundBlocks();
  private characters = 0;

  /** A job of today's format; undefined where anything in it is wrong. */
  job(value: unknown): Job | undefined {
    const around = this.around.safeParse(value).data;
    if (!around) return undefined;
    const sheets: Job['sheets'] = [];
    for (const sheet of around.sheets) {
      const blocks: Block[] = [];
      for (const raw of sheet.blocks) {
        const block = this.block(raw);
        if (!block) return undefined;
        blocks.push(block);
      }
      sheets.push({ ...sheet, blocks });
    }
    return { ...around, sheets };
  }

  private block(raw: unknown): Block | undefined {
    const text = JSON.stringify(raw);
    const known = this.known.get(text);
    if (known) return known;
    const block = blockSchema.safeParse(raw).data;
    if (block) this.remember(text, block);
    return block;
  }

  private remember(text: string, block: Block): void {
    this.known.set(text, block);
    this.characters += text.length;
    for (const oldest of this.known.keys()) {
      if (this.characters <= MOST_REMEMBERED) return;
      this.known.delete(oldest);
      this.characters -= oldest.length;
    }
  }
}

/** Longest part of a description: some messages repeat what they were given. */
const MOST_SAID = 200;
const short = (text: string): string => (text.length > MOST_SAID ? `${text.slice(0, MOST_SAID)}…` : text);

/** The first few things a schema found, as one sentence. */
export function describeIssues(error: z.ZodError): string {
  const shown = error.issues.slice(0, 3).map(({ path, message }) => short(path.length > 0 ? `${path.join('.')}: ${message}` : message));
  const rest = error.issues.length - shown.length;
  return shown.join('; ') + (rest > 0 ? `; and ${rest} more` : '');
}
