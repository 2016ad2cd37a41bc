/** The job file, `.jentrix.json`: the job itself as JSON, indented, with its format and version. */
import * as z from 'zod';
import { type Job, JobFormatError, jobSchema, upgradeJob } from '../job';
import type { PullArchive } from '../pulls';

export const JOB_FILE_EXTENSION = '.jentrix.json';
export const JOB_FILE_TYPE = 'application/vnd.jentrix.job+json';

/** Largest job file that is read, in characters. */
export const MAX_JOB_FILE = 8_000_000;

/** A job as it is handed over: what its sheets are matched with stays here. */
export const withoutReferences = (job: Job): Job => ({ ...job, sheets: job.sheets.map((sheet) => (sheet.reference ? { ...sheet, reference: null } : sheet)) });

/** Writes a job file; `readJobFile` gives the same job back. @param kept its pulls, where the file is to hold them */
export function writeJobFile(job: Job, kept?: PullArchive): string {
  return `${JSON.stringify(kept ? { ...job, kept } : job, null, 2)}\n`;
}

/**
 * Checks any value as a job of a known version and brings it up to date.
 * @throws JobFormatError saying where and what is wrong.
 */
export function readJob(value: unknown): Job {
  const result = jobSchema.safeParse(upgradeJob(value));
  if (result.success) return result.data;
  throw new JobFormatError(`This job is damaged: ${describeIssues(result.error)}`);
}

/** A job file that is read: the job, and the pulls it holds, unchecked. */
export interface JobFile {
  job: Job;
  kept: unknown;
}

/**
 * Reads a job file.
 * @throws JobFormatError for text that is no JSON, no job, damaged, or too large.
 */
export function openJobFile(text: string): JobFile {
  if (text.trim() === '') throw new JobFormatError('The file is empty.');
  if (text.length > MAX_JOB_FILE) throw new JobFormatError('The file is too large to be a job.');
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new JobFormatError(`The file is not JSON, or was cut off: ${error instanceof Error ? error.message : 'it can’t be read'}`);
  }
  if (typeof value !== 'object' || value === null || !('kept' in value)) return { job: readJob(value), kept: undefined };
  const { kept, ...job } = value;
  return { job: readJob(job), kept };
}

/** The job of a job file. @throws JobFormatError */
export const readJobFile = (text: string): Job => openJobFile(text).job;

/** Longest part of a description: some messages repeat what they were given. */
const MOST_SAID = 200;
const short = (text: string): string => (text.length > MOST_SAID ? `${text.slice(0, MOST_SAID)}…` : text);

/** The first few things a schema found, as one sentence. */
export function describeIssues(error: z.ZodError): string {
  const shown = error.issues.slice(0, 3).map(({ path, message }) => short(path.length > 0 ? `${path.join('.')}: ${message}` : message));
  const rest = error.issues.length - shown.length;
  return shown.join('; ') + (rest > 0 ? `; and ${rest} more` : '');
}
