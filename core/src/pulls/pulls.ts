/** Pulls: kept states of a job. A state is kept in pieces, so that what did not change from one to the next is there once. */
import type { Block, Job, Sheet } from '../job';

/** Why a pull was kept: by hand, before an edit that changes much at once, or since two people changed the same. */
export const PULL_REASONS = ['hand', 'first-cut', 'face', 'brief', 'mend', 'conflict'] as const;
export type PullReason = (typeof PULL_REASONS)[number];

/** A job in pieces, each as JSON under a key of its contents: its blocks, its sheets with their blocks' keys, and the job with its sheets' keys. */
export interface Pieces {
  root: string;
  pieces: ReadonlyMap<string, string>;
}

/** @param keyOf names a text by what it says: equal texts, and no others, have equal keys. */
export function takeApart(job: Job, keyOf: (text: string) => string): Pieces {
  const pieces = new Map<string, string>();
  const keep = (piece: unknown): string => {
    const text = JSON.stringify(piece);
    const key = keyOf(text);
    pieces.set(key, text);
    return key;
  };
  const sheets = job.sheets.map((sheet) => keep({ ...sheet, blocks: sheet.blocks.map(keep) } satisfies Record<keyof Sheet, unknown>));
  return { root: JSON.stringify({ ...job, sheets } satisfies Record<keyof Job, unknown>), pieces };
}

/**
 * The job as JSON text, as it was when it was taken apart.
 * @throws Error where a piece is missing.
 */
export function putTogether({ root, pieces }: Pieces): string {
  const piece = (key: string): string => {
    const text = pieces.get(key);
    if (text === undefined) throw new Error('A part of it is missing.');
    return text;
  };
  const job = JSON.parse(root) as Record<string, unknown> & { sheets: string[] };
  const sheets = job.sheets.map((key) => {
    const sheet = JSON.parse(piece(key)) as Record<string, unknown> & { blocks: string[] };
    return { ...sheet, blocks: sheet.blocks.map((one) => JSON.parse(piece(one)) as Block) };
  });
  return JSON.stringify({ ...job, sheets });
}
