/** Job files that hold the job's pulls too: written when that is asked for, and read like any other. */
import { writeFileSync } from 'node:fs';
import { inflateRawSync } from 'node:zlib';
import { MAX_JOB_FILE, withoutReferences, writeJobFile } from '@jentrix/core/formats';
import { type Job, describeIssues, readJob } from '@jentrix/core/job';
import { type PullArchive, newJobBodySchema, pullArchiveSchema, archivedPulls } from '@jentrix/core/pulls';
import { ProblemError } from '../http/problem';
import { MAX_JOB_BYTES } from '../http/sizes';
import { type Filed, checkedBody, file, readStored } from './filing';
import { type FiledPull, filedPull } from './file-pull';

/** A pull that came with its job. */
export interface CameAlong extends FiledPull {
  createdAt: string;
}

export interface FiledWithPulls extends Filed {
  pulls: CameAlong[];
}

const refuse = (detail: string): ProblemError =>
  new ProblemError(422, 'damaged-pull', 'The pulls in the file can’t be read', `${detail} Nothing was imported.`);

/** The body of a new job: the job, and the pulls that its file held. @throws ProblemError 400, 422; JobFormatError */
export function fileNewBody(text: string): FiledWithPulls {
  const { job, kept } = checkedBody(newJobBodySchema, text);
  if (kept === undefined && Buffer.byteLength(text) > MAX_JOB_BYTES)
    throw new ProblemError(413, 'too-large', 'Too large', 'The request is larger than the server takes.');
  const filed = file(readJob(job));
  if (kept === undefined) return { ...filed, pulls: [] };
  return { ...filed, pulls: filedPulls(kept) };
}

/** The pulls of a file, unchecked so far, each changed as is asked for. @throws ProblemError 422; JobFormatError */
export function filedPulls(kept: unknown, change: (job: Job) => Job = (job) => job): CameAlong[] {
  const archive = pullArchiveSchema.safeParse(kept);
  if (!archive.success) throw refuse(`${describeIssues(archive.error)}.`);
  try {
    return archivedPulls(archive.data).map(({ name, reason, createdAt, document }) => ({
      ...filedPull(change(readJob(JSON.parse(document))), name, reason),
      createdAt,
    }));
  } catch (error) {
    throw refuse(
      error instanceof Error && !(error instanceof TypeError || error instanceof SyntaxError) ? error.message : 'One of them is not a state of a job.',
    );
  }
}

/** Pulls as they are stored: root and pieces deflated, as base64. */
export interface StoredPulls {
  pulls: (Omit<PullArchive['pulls'][number], 'root'> & { root: string })[];
  pieces: [key: string, bytes: string][];
}

const inflated = (bytes: string): string => inflateRawSync(Buffer.from(bytes, 'base64')).toString('utf8');

/** A reference stays here, as it does with the job itself. */
function pieceHandedOver(text: string): string {
  if (!text.includes('"reference":{')) return text;
  const piece = JSON.parse(text) as Record<string, unknown>;
  return 'reference' in piece ? JSON.stringify({ ...piece, reference: null }) : text;
}

/** Stored pulls as they go into a file. */
export const keptOf = (stored: StoredPulls): PullArchive => ({
  pulls: stored.pulls.map((pull) => ({ ...pull, root: inflated(pull.root) })),
  pieces: Object.fromEntries(stored.pieces.map(([key, bytes]) => [key, pieceHandedOver(inflated(bytes))])),
});

/** @throws ProblemError 413 where that is more than a job file may hold */
function checkedSize(text: string, pulls: number): string {
  if (text.length <= MAX_JOB_FILE) return text;
  throw new ProblemError(
    413,
    'too-large',
    'The file would be too large',
    `With its ${pulls} pulls the job is larger than a job file may be. Delete some pulls, or hand it over without them.`,
  );
}

/** Writes a stored job with its pulls. @throws ProblemError 413 where that is more than a job file may hold; 422 */
export function jobFileWithPulls({ document, out, stored }: { document: string; out: string; stored: StoredPulls }): void {
  writeFileSync(out, checkedSize(writeJobFile(withoutReferences(readStored(document)), keptOf(stored)), stored.pulls.length));
}
