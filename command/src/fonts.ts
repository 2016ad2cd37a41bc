import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { basename, extname, join } from 'node:path';
import * as z from 'zod';
import { type CollectionEntry, Face, FaceError, type OpenOptions, fontsIn, isCollection } from '@jentrix/core/face';
import type { Job } from '@jentrix/core/job';
import { FaceSet, facesOf } from '@jentrix/core/setting';
import { UsageError } from './usage-error';

/** @throws UsageError */
export function readBytes(path: string): Uint8Array {
  try {
    return new Uint8Array(readFileSync(path));
  } catch (error) {
    throw new UsageError(`“${path}” can’t be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** A file as text. @throws UsageError */
export function glyphText(path: string): string {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(readBytes(path));
  } catch (error) {
    if (error instanceof UsageError) throw error;
    throw new UsageError(`“${path}” is no text in UTF-8.`);
  }
}

/**
 * Opens a font file of any kind. One font of a collection is named behind `#`: by its style, its whole name or its number from 1.
 * @throws UsageError naming the file and what is wrong with it.
 */
export async function openFontFile(path: string, options: OpenOptions = {}): Promise<Face> {
  const named = existsSync(path) ? null : /^(.+)#([^#]+)$/s.exec(path);
  const bytes = readBytes(named?.[1] ?? path);
  try {
    const font = isCollection(bytes) ? await chosen(bytes, named?.[2]) : undefined;
    return await Face.open(bytes, { decodeWoff2: async (data) => (await import('woff2-encoder/decompress')).default(data), font, ...options });
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

const shippedSchema = z.array(z.looseObject({ id: z.string(), file: z.string(), licence: z.string().optional() }));
const FONT_FILE = /\.(ttf|otf|woff2?)$/i;

/** A face in a folder. */
interface ListedFace {
  id: string;
  path: string;
  /** Where its licence is, if it came with one. */
  licence?: string | undefined;
}

/** The faces of a folder: as its `faces.json` lists them, or every font file by its name without ending. @throws UsageError */
function listedFaces(folder: string): [ListedFace, ...ListedFace[]] {
  const index = join(folder, 'faces.json');
  const listed = existsSync(index)
    ? (shippedSchema.safeParse(JSON.parse(glyphText(index))).data ?? []).map(({ id, file, licence }) => ({
        id,
        path: join(folder, file),
        licence: licence === undefined ? undefined : join(folder, 'licences', licence),
      }))
    : filesIn(folder).flatMap((name) => (FONT_FILE.test(name) ? [{ id: basename(name, extname(name)), path: join(folder, name) }] : []));
  const [first, ...more] = listed;
  if (!first) throw new UsageError(`“${folder}” holds no faces: neither a faces.json nor font files.`);
  return [first, ...more];
}

/** The faces of a folder by what jobs call them, in their order. @throws UsageError */
export const facePaths = (folder: string): Map<string, ListedFace> => new Map(listedFaces(folder).map((face) => [face.id, face]));

/** @throws UsageError */
function filesIn(folder: string): string[] {
  try {
    return readdirSync(folder).sort();
  } catch (error) {
    throw new UsageError(`“${folder}” can’t be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/**
 * The faces a job names, opened from a folder; the first there stands in for missing ones.
 * @param also further faces, opened where they are there.
 */
export async function facesForJob(job: Job, folder: string, also: readonly string[] = []): Promise<{ faces: FaceSet; missing: string[] }> {
  const listed = listedFaces(folder);
  const named = job.sheets.flatMap((sheet) => sheet.blocks.flatMap(facesOf));
  const { id: standIn, face } = await firstOf(listed);
  const faces = new FaceSet(standIn);
  faces.add(standIn, face);
  const missing: string[] = [];
  for (const id of new Set([...named, ...also])) {
    const entry = listed.find((one) => one.id === id);
    if (entry && id !== standIn) faces.add(id, await openFontFile(entry.path));
    else if (!entry && named.includes(id)) missing.push(id);
  }
  return { faces, missing };
}

/** The first face that can be opened. @throws UsageError what is wrong with the first, where none can */
async function firstOf(listed: readonly [ListedFace, ...ListedFace[]]): Promise<{ id: string; face: Face }> {
  let trouble: unknown;
  for (const { id, path } of listed) {
    try {
      return { id, face: await openFontFile(path) };
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      trouble ??= error;
    }
  }
  throw trouble;
}

/** All faces of a folder, and what they are called; fonts that can't be opened are left out, and told. */
export async function allFaces(folder: string): Promise<{ faces: FaceSet; ids: string[]; troubles: string[] }> {
  const listed = listedFaces(folder);
  const troubles: string[] = [];
  const ids: string[] = [];
  let faces: FaceSet | undefined;
  for (const { id, path } of listed) {
    try {
      const face = await openFontFile(path);
      faces ??= new FaceSet(id);
      faces.add(id, face);
      ids.push(id);
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      troubles.push(error.message);
    }
  }
  if (!faces) throw new UsageError(troubles[0] ?? `“${folder}” holds no faces.`);
  return { faces, ids, troubles };
}
