import type { Picture } from '@jentrix/core/api';
import { type Job, createJob, pictureOn, resizeSheet, withSheet } from '@jentrix/core/job';
import type { Preferences } from '@jentrix/core/preferences';
import { toPoints } from '@jentrix/core/units';

/** Longest side of a sheet made for a picture, in points. */
const LONGEST_PT = 10_000;

/** A new job whose sheet is as large as a picture that lies on it. */
export function onPicture({ id, width, height }: Picture, fileName: string, { autoLeadingFactor }: Pick<Preferences, 'autoLeadingFactor'>): Job {
  const title = fileName.replace(/\.[^.]+$/, '').slice(0, 200) || 'Untitled job';
  const job = createJob(title, () => crypto.randomUUID(), 'px', autoLeadingFactor);
  const [sheet] = job.sheets;
  if (!sheet) return job;
  const [widthPt, heightPt] = [toPoints(width, 'px'), toPoints(height, 'px')];
  const share = Math.min(1, LONGEST_PT / Math.max(widthPt, heightPt));
  const sized = resizeSheet(job, sheet.id, { widthPt: Math.max(1, widthPt * share), heightPt: Math.max(1, heightPt * share), unit: 'px' });
  return withSheet(sized, sheet.id, { background: pictureOn(sheet.background, id) });
}
