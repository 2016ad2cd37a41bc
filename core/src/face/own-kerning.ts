/** The kerning a font itself holds for two letters. */
import type { FaceInstance } from './face';

/** Letters apart, so that a pair is two letters. */
export const PAIR_APART = ['liga', 'clig', 'calt'].map((tag) => ({ tag, value: 0 }));

/** The font's own kerning of two letters in 1/1000 em: their advance with `kern` minus without. */
export function ownKerning(instance: FaceInstance, pair: string): number {
  const width = (kern: number): number =>
    instance.shape(pair, 0, pair.length, [...PAIR_APART, { tag: 'kern', value: kern }]).reduce((sum, glyph) => sum + glyph.xAdvance, 0);
  return ((width(1) - width(0)) * 1000) / instance.unitsPerEm;
}
