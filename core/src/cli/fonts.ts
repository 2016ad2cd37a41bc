import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as z from 'zod';
import { Face, FaceError, type OpenOptions } from '../face';
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

/** Opens a font file of any kind. @throws UsageError naming the file and what is wrong with it. */
export async function openFont(path: string, options: OpenOptions = {}): Promise<Face> {
  const bytes = readBytes(path);
  try {
    const { default: decode } = await import('woff2-encoder/decompress');
    return await Face.open(bytes, { decodeWoff2: (data) => decode(data), ...options });
  } catch (error) {
    if (error instanceof FaceError) throw new UsageError(`“${path}” can’t be opened: ${error.message}`);
    throw error;
  }
}

const shippedSchema = z.array(z.looseObject({ id: z.string(), file: z.string() }));

/** The faces a job names, opened from a folder with a `faces.json`; the first listed stands in for missing ones. */
export async function facesForJob(job: Job, folder: string): Promise<{ faces: FaceSet; missing: string[] }> {
  const index = join(folder, 'faces.json');
  if (!existsSync(index)) throw new UsageError(`“${folder}” holds no faces.json.`);
  const listed = shippedSchema.safeParse(JSON.parse(readFileSync(index, 'utf8'))).data ?? [];
  const standIn = listed[0];
  if (!standIn) throw new UsageError(`“${index}” does not list faces.`);
  const faces = new FaceSet(standIn.id);
  const missing: string[] = [];
  const named = job.sheets.flatMap((sheet) => sheet.blocks.flatMap(facesOf));
  for (const id of new Set([standIn.id, ...named])) {
    const entry = listed.find((face) => face.id === id);
    if (entry) faces.add(id, await openFont(join(folder, entry.file)));
    else missing.push(id);
  }
  return { faces, missing };
}
