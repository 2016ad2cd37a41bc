/** The job file, `.jentrix.json`: the job itself as JSON, indented, with its format and version. */
import { type Job, JobFormatError, readJob } from '../job';
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
