import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { JOB_FILE_EXTENSION, readJobFile } from '@jentrix/core/formats';
import type { Job, Sheet } from '@jentrix/core/job';
import type { JobsService } from '../jobs/jobs.service';
import type { PicturesService } from '../pictures/pictures.service';

/**
 * Puts the demo's job files on the shelf, the first of them on top; only into a database that holds nothing yet.
 * @returns how many jobs were added.
 */
export async function seedDemo(jobs: JobsService, pictures: PicturesService, folder: string): Promise<number> {
  if (!(await jobs.isEmpty())) return 0;
  const files = readdirSync(folder)
    .filter((name) => name.endsWith(JOB_FILE_EXTENSION))
    .sort()
    .reverse();
  for (const file of files) jobs.create(await withPictures(readJobFile(readFileSync(join(folder, file), 'utf8')), pictures, folder));
  return files.length;
}

/** Backgrounds that name a file of the demo, `demo:sky.svg`, are kept like any uploaded picture. */
async function withPictures(job: Job, pictures: PicturesService, folder: string): Promise<Job> {
  const sheets: Sheet[] = [];
  for (const sheet of job.sheets) {
    const { background } = sheet;
    const file = background.kind === 'picture' && /^demo:([\w.-]+)$/.exec(background.pictureId)?.[1];
    if (!file) sheets.push(sheet);
    else {
      const { id } = await pictures.keep(readFileSync(join(folder, 'pictures', file)));
      sheets.push({ ...sheet, background: { ...background, pictureId: id } });
    }
  }
  return { ...job, sheets };
}
