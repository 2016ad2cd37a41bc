/** Any value as a job. */
import type * as z from 'zod';
import { type Job, jobSchema } from './schema';
import { JobFormatError, upgradeJob } from './upgrade';

/**
 * Checks any value as a job of a known version and brings it up to date.
 * @throws JobFormatError saying where and what is wrong.
 */
export function readJob(value: unknown): Job {
  const result = jobSchema.safeParse(upgradeJob(value));
  if (result.success) return result.data;
  throw new JobFormatError(`This job is damaged: ${describeIssues(result.error)}`);
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
