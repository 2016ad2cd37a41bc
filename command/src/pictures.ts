/** Pictures beside a job file. */
import { existsSync, readdirSync } from 'node:fs';
import { dirname, extname, join } from 'node:path';
import { fitted } from '@jentrix/core/formats';
import type { Sheet } from '@jentrix/core/job';
import { readBytes } from './fonts';

/** The folder pictures are in where no other is said. */
export const picturesBeside = (jobFile: string): string => join(dirname(jobFile), 'pictures');

const MEDIA_TYPES: Readonly<Record<string, string>> = {
  '.svg': 'image/svg+xml',
  '.png': 'image/png',
  '.jpg': 'image/jpeg',
  '.jpeg': 'image/jpeg',
  '.webp': 'image/webp',
};

/** A picture, found by its identifier in a folder; undefined where it is not there. */
export function pictureFile(folder: string, pictureId: string): { type: string; path: string } | undefined {
  if (!existsSync(folder)) return undefined;
  // Those of the demonstration are named with where they are from.
  const named = pictureId.replace(/^demo:/, '');
  const file = readdirSync(folder).find(
    (name) => MEDIA_TYPES[extname(name).toLowerCase()] !== undefined && (name === named || name.slice(0, -extname(name).length) === named),
  );
  return file === undefined ? undefined : { type: MEDIA_TYPES[extname(file).toLowerCase()] ?? '', path: join(folder, file) };
}

/** The sheet's picture, found by its identifier in a folder, as a `data:` address; none where it is not there. */
export function picturesOf({ background }: Sheet, folder: string): Map<string, string> {
  if (background.kind !== 'picture') return new Map();
  const { pictureId, fit } = background;
  const found = pictureFile(folder, pictureId);
  if (!found) return new Map();
  const bytes = Buffer.from(readBytes(found.path));
  const laid = found.type === 'image/svg+xml' ? Buffer.from(fitted(bytes.toString('utf8'), fit)) : bytes;
  return new Map([[pictureId, `data:${found.type};base64,${laid.toString('base64')}`]]);
}
