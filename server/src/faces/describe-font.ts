/** Opening font files: what the processes do that take fonts in. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { FaceEntry } from '@jentrix/core/api';
import { type CollectionEntry, Face, FaceError, fontsIn, startPosition } from '@jentrix/core/face';
import { measureAnatomy } from '@jentrix/core/advice';
import decodeWoff2 from 'woff2-encoder/decompress';
import { ProblemError } from '../http/problem';

/** The fields read from a font file. */
export type FontFields = Pick<FaceEntry, 'family' | 'style' | 'axes' | 'features' | 'anatomy' | 'weight' | 'italic' | 'slopeDeg'>;

/** Opens any font file the server may meet, WOFF2 included. @throws FaceError */
export function openFontBytes(bytes: Uint8Array): Promise<Face> {
  return Face.open(new Uint8Array(bytes), { decodeWoff2: (data) => decodeWoff2(data) });
}

/** The fonts of a collection. @throws ProblemError 422 */
export async function listFonts({ path }: { path: string }): Promise<CollectionEntry[]> {
  try {
    return await fontsIn(new Uint8Array(readFileSync(path)));
  } catch (error) {
    throw asProblem(error);
  }
}

/** Reads a font's names and measures it. @returns what it read, and the SHA-256 of the file. @throws ProblemError 422 */
export async function describeFont({ path }: { path: string }): Promise<{ fields: FontFields; digest: string }> {
  try {
    const bytes = readFileSync(path);
    const face = await openFontBytes(bytes);
    try {
      const { family, style, axes, features, posture } = face;
      const anatomy = measureAnatomy(face.instance(startPosition(axes, 24)));
      return {
        fields: { family, style, anatomy, ...posture, axes: [...axes], features: [...features] },
        digest: createHash('sha256').update(bytes).digest('hex'),
      };
    } finally {
      face.dispose();
    }
  } catch (error) {
    throw asProblem(error);
  }
}

/** The problem answered to a font that can't be used. */
export const asProblem = (error: unknown): unknown =>
  error instanceof FaceError ? new ProblemError(422, 'bad-font', 'The font can’t be used', error.message, { code: error.code }) : error;
