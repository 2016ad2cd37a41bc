/** A job as it is filed: checked, brought up to date, and as the text that is stored, with what lists and look-ups need beside it. */
import { writeFileSync } from 'node:fs';
import { jobBodySchema } from '@jentrix/core/api';
import { withoutReferences, writeJobFile } from '@jentrix/core/formats';
import {
  describeIssues,
  SoundBlocks,
  readJob,
  type Job,
  type JobKind,
  type RecipeSettings,
  type Sheet,
  type Use,
  leaveEverywhere,
  replaceFace,
  retitle,
  updateFollowers,
  usesOf,
} from '@jentrix/core/job';
import type { z } from 'zod';
import { ProblemError } from '../http/problem';

export interface Filed {
  /** The job as JSON. */
  document: string;
  title: string;
  kind: JobKind;
  sheetCount: number;
  sheets: Pick<Sheet, 'id' | 'name'>[];
  /** Width over height of the first sheet. */
  aspect: number;
  uses: Use[];
}

/** A change to a job by the server. */
export type JobChange =
  | { kind: 'copy' }
  | { kind: 'recipe'; recipeId: string; before: RecipeSettings; after: RecipeSettings }
  | { kind: 'leave-recipe'; recipeId: string }
  | { kind: 'face'; from: string; to: string };

const changed = (job: Job, change: JobChange): Job => {
  switch (change.kind) {
    case 'copy':
      return retitle(job, `${job.title} copy`.slice(0, 200));
    case 'recipe':
      return updateFollowers(job, change.recipeId, change.before, change.after);
    case 'leave-recipe':
      return leaveEverywhere(job, change.recipeId);
    case 'face':
      return replaceFace(job, change.from, change.to);
  }
};

/** A job ready to be stored. */
export function file(job: Job): Filed {
  const first = job.sheets[0];
  return {
    document: JSON.stringify(job),
    title: job.title,
    kind: job.kind,
    sheetCount: job.sheets.length,
    sheets: job.sheets.map(({ id, name }) => ({ id, name })),
    aspect: first ? first.widthPt / first.heightPt : 1,
    uses: usesOf(job),
  };
}

/** A body that was taken as text, checked. @throws ProblemError 400 for text that is no JSON, 422 for another body */
export function checkedBody<T extends z.ZodType>(schema: T, text: string): z.output<T> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new ProblemError(400, 'bad-request', 'The request can’t be understood', error instanceof Error ? error.message : undefined);
  }
  const body = schema.safeParse(value);
  if (!body.success) throw new ProblemError(422, 'invalid', 'The body is not valid', describeIssues(body.error));
  return body.data;
}

/** The job in the body of a write. @throws ProblemError 400, 422; JobFormatError */
export const fileBody = (text: string): Filed => file(readJob(checkedBody(jobBodySchema, text).job, sound));

/** Blocks that this process has checked. */
const sound = new SoundBlocks();

/** Reads a stored job. @throws ProblemError 422 where it can’t be read any more */
export function readStored(document: string): Job {
  try {
    return readJob(JSON.parse(document));
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw new ProblemError(422, 'damaged-job', 'The stored job can’t be read', `It is damaged: ${why} The other jobs are safe.`);
  }
}

/** A stored job, brought up to date, and changed where that is asked for. @throws ProblemError 422 */
export function fileStored({ document, change }: { document: string; change?: JobChange }): Filed {
  const job = readStored(document);
  return file(change ? changed(job, change) : job);
}

/** Writes a stored job as a job file. @throws ProblemError 422 */
export const jobFile = ({ document, out }: { document: string; out: string }): void =>
  writeFileSync(out, writeJobFile(withoutReferences(readStored(document))));
