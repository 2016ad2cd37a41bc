/** The fonts of a job with its pairs, as files. */
import type { FaceSet } from '../../setting';
import type { PairsOfFace } from '../pairs';
import { fontWithPairs } from './font-with-pairs';
import { postScriptName } from './names';

export interface FontFilesOptions {
  /** The name of the family; several families are told apart by a letter behind it. */
  name: string;
  /** Text of the licence a face came with, where there is one. */
  licenceOf: (faceId: string) => string | undefined;
}

/**
 * @returns files by their names, and what people are told: fonts that there are not, and pairs that come out otherwise.
 * A font that can't be changed is left out.
 */
export async function fontFiles(
  found: readonly PairsOfFace[],
  faces: FaceSet,
  { name, licenceOf }: FontFilesOptions,
): Promise<{ files: Record<string, Uint8Array>; notes: string[] }> {
  const families = [...new Set(found.map(({ family }) => family))];
  const nameOf = (family: string): string => (families.length < 2 ? name : `${name} ${String.fromCharCode(65 + (families.indexOf(family) % 26))}`);
  const files: Record<string, Uint8Array> = {};
  const notes: string[] = [];
  for (const pairs of found) {
    const { faceId, family, style } = pairs;
    const face = faces.get(faceId);
    if (!face || pairs.pairs.length === 0) continue;
    const licence = licenceOf(faceId);
    const made = await fontWithPairs(face, pairs, { name: nameOf(family), licence }).catch((error: unknown) => {
      if (error instanceof RangeError) return `Its tables can’t take the pairs: ${error.message}.`;
      throw error;
    });
    if (typeof made === 'string') {
      notes.push(`There is no font of ${family} ${style}. ${made}`);
      continue;
    }
    const ending = made.bytes[0] === 0x4f ? '.otf' : '.ttf';
    const base = postScriptName(`${made.name}-${style}`.replace(/\s+/g, '')) || 'font';
    files[`fonts/${base}${ending}`] = made.bytes;
    if (licence !== undefined) files[`fonts/${base}-licence.txt`] = new TextEncoder().encode(licence);
    if (made.left.length > 0)
      notes.push(
        `${made.name} ${style}: these pairs come out otherwise, since their letters join: ${made.left.map(({ left, right }) => left + right).join(' ')}.`,
      );
  }
  return { files, notes };
}
