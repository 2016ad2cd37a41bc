/** The pulls of a job as they go into a file, when that is asked for: each state as a root and the keys of its pieces, each piece once. */
import * as z from 'zod';
import { PULL_REASONS, type PullReason, putTogether } from './pulls';

/** Pulls that a job keeps at most. */
export const MOST_PULLS = 500;

const pieceKey = z.string().min(1).max(64);

export const pullArchiveSchema = z.strictObject({
  pulls: z
    .array(
      z.strictObject({
        name: z.string().max(80),
        reason: z.enum(PULL_REASONS),
        createdAt: z.iso.datetime(),
        root: z.string(),
        parts: z.array(pieceKey).max(20_000),
      }),
    )
    .max(MOST_PULLS),
  pieces: z.record(pieceKey, z.string()),
});
export type PullArchive = z.infer<typeof pullArchiveSchema>;

/** The body of a new job, with the pulls that its file held. Here and not with the other bodies, since the page has no use for it. */
export const newJobBodySchema = z.strictObject({ job: z.unknown(), kept: z.unknown().optional() });

/** A pull out of a file: its state as JSON text. */
export interface ArchivedPull {
  name: string;
  reason: PullReason;
  createdAt: string;
  document: string;
}

/** The pulls of an archive, in its order. @throws Error where a part of one is missing or is no JSON */
export function archivedPulls({ pulls, pieces }: PullArchive): ArchivedPull[] {
  return pulls.map(({ name, reason, createdAt, root, parts }) => {
    const own = new Map(parts.flatMap((part) => (Object.hasOwn(pieces, part) ? [[part, pieces[part] ?? ''] as const] : [])));
    return { name, reason, createdAt, document: putTogether({ root, pieces: own }) };
  });
}
