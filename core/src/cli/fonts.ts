import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as z from 'zod';
import { type CollectionEntry, Face, FaceError, type OpenOptions, fontsIn, isCollection } from '../face';
import type { Job } from '../job';
import { FaceSet, facesOf } from '../setting';
import { UsageError } from './usage-error';

export const SHIPPED_FACES = fileURLToPath(new URL('../../../faces/', import.meta.url));

/** @throws UsageError */
export function readBytes(path: string): Uint8Array {
  try {
    return new Uint8Array(readFileSync(path));
  } catch (error) {
    throw new UsageError(`“${path}” can’t be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/**
 * Opens a font file of any kind. One font of a collection is named behind `#`: by its style, its whole name or its number from 1.
 * @throws UsageError naming the file and what is wrong with it.
 */
export async function openFont(path: string, options: OpenOptions = {}): Promise<Face> {
  const named = existsSync(path) ? null : /^(.+)#([^#]+)$/s.exec(path);
  const bytes = readBytes(named?.[1] ?? path);
  try {
    const { default: decode } = await import('woff2-encoder/decompress');
    const font = isCollection(bytes) ? await chosen(bytes, named?.[2]) : undefined;
    return await Face.open(bytes, { decodeWoff2: (data) => decode(data), font, ...options });
  } catch (error) {
    if (error instanceof FaceError) throw new UsageError(`“${path}” can’t be opened: ${error.message}`);
    throw error;
  }
}

/** The number of a font in a collection. @throws FaceError with what there is where nothing or nothing that is there was named. */
async function chosen(bytes: Uint8Array, name: string | undefined): Promise<number> {
  const fonts = await fontsIn(bytes);
  const [only] = fonts;
  if (only && fonts.length === 1 && name === undefined) return only.font;
  const wanted = name?.toLowerCase();
  const fits = ({ font, family, style }: CollectionEntry): boolean => [`${font + 1}`, style, `${family} ${style}`].some((one) => one.toLowerCase() === wanted);
  const [found, second] = fonts.filter(fits);
  if (found && !second) return found.font;
  const list = fonts.map(({ font, family, style }) => `${font + 1} ${family} ${style}`).join(', ');
  throw new FaceError('collection', `It is a collection; name one of its fonts behind “#”: ${list}.`);
}

const shippedSchema = z.array(z.looseObject({ id: z.string(), file: z.string() }));

/**
 * The faces a job names, opened from a folder with a `faces.json`; the first listed stands in for missing ones.
 * @param also further faces, opened where they are there.
 */
export async function facesForJob(job: Job, folder: string, also: readonly string[] = []): Promise<{ faces: FaceSet; missing: string[] }> {
  const index = join(folder, 'faces.json');
  if (!existsSync(index)) throw new UsageError(`“${folder}” holds no faces.json.`);
  const listed = shippedSchema.safeParse(JSON.parse(readFileSync(index, 'utf8'))).data ?? [];
  const standIn = listed[0];
  if (!standIn) throw new UsageError(`“${index}” does not list faces.`);
  const faces = new FaceSet(standIn.id);
  const missing: string[] = [];
  const named = job.sheets.flatMap((sheet) => sheet.blocks.flatMap(facesOf));
  for (const id of new Set([standIn.id, ...named, ...also])) {
    const entry = listed.find((face) => face.id === id);
    if (entry) faces.add(id, await openFont(join(folder, entry.file)));
    else if (named.includes(id)) missing.push(id);
  }
  return { faces, missing };
}
