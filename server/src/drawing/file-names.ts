import type { Job, Sheet } from '@jentrix/core/job';

/** A part of a file name: letters and figures of any script, the rest as hyphens. */
export const slug = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '');

/** A file name from a title, and the sheet's name where there are several; without its ending. */
export function fileName(job: Pick<Job, 'title' | 'sheets'>, sheetId?: string): string {
  const sheet = job.sheets.length > 1 ? job.sheets.find(({ id }) => id === sheetId) : undefined;
  return [slug(job.title) || 'job', sheet && (slug(sheet.name) || 'sheet')].filter(Boolean).join('-');
}

/** The name of a sheet’s file among all sheets of a job. */
export const numberedName = ({ name }: Pick<Sheet, 'name'>, index: number): string => `${String(index + 1).padStart(2, '0')}-${slug(name) || 'sheet'}`;
