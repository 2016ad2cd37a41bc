/**
 * Space stage: one list of advances, the only source of widths. What the font says of a letter, word space, tracking, kerning and
 * hand values are whole numbers of one unit, so that sums are exact and points are made once.
 */
import { isSpace } from './blank';
import { kernsOf } from './shape-kerning';
import type { StyledRun } from './spans';

/** Hand values by place, in tenths of 1/1000 em. */
export type HandTenths = ReadonlyMap<number, number>;

/** Units of advances in one font unit: a tenth of 1/1000 em is a whole number of them in every font. */
const UNITS = 10_000;

/** Letters of one style with the room that each takes of its line. */
export interface SpacedRun extends StyledRun {
  /** How far the pen goes on after each glyph, in 1/10,000 of a font unit. */
  readonly advances: readonly number[];
  /** The part of it that stands only between this letter and the next on the line: tracking, kerning by shape, hand values. */
  readonly between: readonly number[];
  /** Points in one unit of advances. */
  readonly unitPt: number;
}

/**
 * Spaces letters.
 * @param runs in the order they stand in. @param hand the block's hand values.
 */
export function space(words: string, runs: readonly StyledRun[], hand: HandTenths): SpacedRun[] {
  return runs.map((run, r) => {
    const { start, end, style, instance, level, glyphs, item } = run;
    const em = instance.unitsPerEm;
    const tracking = Math.round(style.trackingMilliem * 10);
    const wordSpace = Math.round(style.wordSpaceMilliem * 10);
    const kerns = style.kerning === 'shape' ? kernsOf(runs, r) : undefined;
    const follows = runs[r + 1]?.glyphs[0]?.cluster;
    const count = glyphs.length;
    const advances = new Array<number>(count).fill(0);
    const between = new Array<number>(count).fill(0);
    let next = count > 0 ? glyphs[0] : undefined;
    for (let i = 0; i < count; i++) {
      const glyph = next;
      next = glyphs[i + 1];
      if (!glyph) continue;
      const { cluster } = glyph;
      const nextCluster = next ? next.cluster : follows;
      let units = glyph.xAdvance * UNITS;
      // Inside a letter of several glyphs nothing is added.
      if (nextCluster !== cluster) {
        if (wordSpace !== 0 && isSpace(words.charAt(cluster))) units += wordSpace * em;
        if (nextCluster !== undefined) {
          let tenths = tracking;
          if (kerns) tenths += kerns[i] ?? 0;
          if (hand.size > 0) tenths += hand.get(nextCluster > cluster ? nextCluster : cluster) ?? 0;
          between[i] = tenths * em;
          units += tenths * em;
        }
      }
      advances[i] = units;
    }
    return { start, end, style, instance, level, glyphs, item, advances, between, unitPt: (style.sizePt * style.scaleX) / (em * UNITS) };
  });
}

/** The width of spaced letters in points, from the first letter's origin to the end of the last letter's advance. */
export function widthOf(runs: readonly SpacedRun[]): number {
  let widthPt = 0;
  for (const { advances, unitPt } of runs) {
    let units = 0;
    for (const advance of advances) units += advance;
    widthPt += units * unitPt;
  }
  return widthPt;
}
