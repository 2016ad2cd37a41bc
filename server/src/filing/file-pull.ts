/** The body of a new pull, checked and taken apart. */
import { createHash } from 'node:crypto';
import { pullBodySchema } from '@jentrix/core/api';
import { readJob, type Job, type Use, usesOf } from '@jentrix/core/job';
import { type PullReason, takeApart } from '@jentrix/core/pulls';
import { checkedBody } from './filing';

export interface FiledPull {
  name: string;
  reason: PullReason;
  title: string;
  uses: Use[];
  root: string;
  pieces: [key: string, text: string][];
}

const keyOf = (text: string): string => createHash('sha256').update(text).digest('base64url').slice(0, 22);

/** @throws ProblemError 400 for text that is no JSON, 422 for another body; JobFormatError */
export function filePull(text: string): FiledPull {
  const { name, reason, job } = checkedBody(pullBodySchema, text);
  return filedPull(readJob(job), name, reason);
}

/** A state of a job as a pull. */
export function filedPull(job: Job, name: string, reason: PullReason): FiledPull {
  const { root, pieces } = takeApart(job, keyOf);
  return { name, reason, title: job.title, uses: usesOf(job), root, pieces: [...pieces] };
}
