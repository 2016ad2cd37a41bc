/** The same font with the pairs of a job in it, under another name, so that every program spaces these words alike. */
import { PAIR_APART, Face, type FaceInstance, checksumOf, ownKerning, writeFont } from '../../face';
import type { FacePair, PairsOfFace } from '../pairs';
import { type GlyphPairs, withPairs } from './gpos';
import { namesOf, renamed } from './names';

/** Licences that let fonts be changed, as fonts and the files beside them state them. */
const OPEN =
  /open\s+font\s+licen[cs]e|scripts\.sil\.org\/OFL|openfontlicense\.org|\bOFL\b|apache\s+licen[cs]e|apache\.org\/licenses|ubuntu\s+font\s+licen[cs]e|\bCC0\b|creativecommons\.org\/publicdomain|\bMIT\s+licen[cs]e/i;

/** Names that a licence keeps for the original (SIL Open Font License 1.1, condition 3). */
const RESERVED = /reserved\s+font\s+names?\s*:?\s*([^\n.;]+)/gi;

/** Why there is no font: for people. */
export type Refusal = string;

export interface MadeFont {
  faceId: string;
  /** Of the family. */
  name: string;
  bytes: Uint8Array;
  /** Pairs that come out otherwise than the job has them: letters that join, and what needs more than kerning. */
  left: FacePair[];
}

export interface FontOptions {
  /** The name of the family. */
  name: string;
  /** Text of the licence the face came with, where it did not say it itself. */
  licence?: string | undefined;
}

/**
 * @returns the font; or, in words, why its licence does not let there be one.
 * @throws RangeError, FaceError where the font's tables are damaged or can't hold the pairs
 */
export async function fontWithPairs(face: Face, { faceId, pairs }: PairsOfFace, { name, licence = '' }: FontOptions): Promise<MadeFont | Refusal> {
  const tables = face.tableData;
  const names = tables.find(({ tag }) => tag === 'name')?.data;
  if (!names) return 'It has no names, so it can’t be told from the original.';
  const stated = [...namesOf(names, 13, 14), licence].join('\n');
  if (!face.installable || !OPEN.test(stated)) return 'Its licence may not allow changes.';
  const reserved = reservedNames([...namesOf(names, 0, 13), licence].join('\n')).find((one) => name.toLowerCase().includes(one.toLowerCase()));
  if (reserved !== undefined) return `“${reserved}” is reserved by its licence: choose another name.`;

  const changed = new Map<string, Uint8Array>([
    ['GPOS', withPairs(tables.find(({ tag }) => tag === 'GPOS')?.data, glyphPairs(face, pairs))],
    ['name', renamed(names, face.family, name)],
  ]);
  // Signatures hold no more; kerning of older tables is in the new one.
  const dropped = ['DSIG', 'GPOS', 'name', ...(face.kerning ? ['kern', 'kerx'] : [])];
  const kept = tables.filter(({ tag }) => !dropped.includes(tag));
  const bytes = writeFont([...kept, ...[...changed].map(([tag, data]) => ({ tag, data, checksum: checksumOf(data) }))]);
  return { faceId, name, bytes, left: await otherwise(bytes, face, pairs) };
}

function reservedNames(text: string): string[] {
  return [...text.matchAll(RESERVED)].flatMap(([, names = '']) =>
    names
      .split(/,|\band\b|["“”'‘’]/)
      .map((one) => one.trim())
      .filter((one) => one.length > 2 && /^\p{Lu}/u.test(one)),
  );
}

/** The pairs to add to the font's own kerning, or, where that is in a table older than `GPOS`, all of it. */
function glyphPairs(face: Face, pairs: readonly FacePair[]): GlyphPairs {
  const found = new Map<number, Map<number, number>>();
  const set = (left: number, right: number, value: number): void => {
    const row = found.get(left) ?? new Map<number, number>();
    found.set(left, row);
    if (value === 0) row.delete(right);
    else row.set(right, value);
    if (row.size === 0) found.delete(left);
  };
  const instance = face.instance();
  const { kerning } = face;
  if (kerning) {
    const glyphs = face.codePoints.flatMap((point) => instance.nominalGlyph(point) ?? []).slice(0, MOST_GLYPHS);
    for (const left of glyphs) for (const right of glyphs) set(left, right, kerning(left, right));
  }
  const units = (milliem: number): number => Math.round((milliem * face.unitsPerEm) / 1000);
  for (const pair of pairs) {
    const letters = pair.left + pair.right;
    // The glyphs that are set, which are others than those of the letters where a feature is always on.
    const [a, b, more] = instance.shape(letters, 0, letters.length, PAIR_APART);
    if (!a || !b || more) continue;
    const own = ownKerning(instance, letters);
    set(a.glyphId, b.glyphId, units(toAdd(pair, own, face)) + (kerning ? units(own) : 0));
  }
  return found;
}

/** The kerning missing from a pair, in 1/1000 em. A variable font's own was read where it was set, which is not where it starts. */
const toAdd = ({ milliem, fontMilliem }: FacePair, own: number, { axes }: Pick<Face, 'axes'>): number => milliem - (axes.length > 0 ? fontMilliem : own);

/** Kerning of older tables is asked for pair by pair. */
const MOST_GLYPHS = 1500;

/** The pairs that the font sets otherwise. */
async function otherwise(font: Uint8Array, before: Face, pairs: readonly FacePair[]): Promise<FacePair[]> {
  const face = await Face.open(font);
  try {
    const [was, is] = [before.instance(), face.instance()];
    return pairs.filter((pair) => {
      const letters = pair.left + pair.right;
      const own = ownKerning(was, letters);
      return isJoined(is, letters) || Math.abs(ownKerning(is, letters) - own - toAdd(pair, own, before)) > 0.5 + 500 / face.unitsPerEm;
    });
  } finally {
    face.dispose();
  }
}

const isJoined = (instance: FaceInstance, pair: string): boolean => instance.shape(pair, 0, pair.length).length < 2;
