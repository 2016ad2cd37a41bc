import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { JOB_FILE_EXTENSION, readJobFile } from '@jentrix/core/formats';
import type { JobsService } from '../jobs/jobs.service';

/**
 * Puts the demo's job files on the shelf, the first of them on top; only into a database that holds nothing yet.
 * @returns how many jobs were added.
 */
export async function seedDemo(jobs: JobsService, folder: string): Promise<number> {
  if (!(await jobs.isEmpty())) return 0;
  const files = readdirSync(folder)
    .filter((name) => name.endsWith(JOB_FILE_EXTENSION))
    .sort()
    .reverse();
  for (const file of files) await jobs.create(readJobFile(readFileSync(join(folder, file), 'utf8')));
  return files.length;
}
