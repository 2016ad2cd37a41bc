/**
 * Space stage: one list of advances, the only source of widths. What the font says of a letter, word space, tracking, kerning and
 * hand values are whole numbers of one unit, so that sums are exact and points are made once.
 */
import { hasInvisible, isSpace, isWordSpace } from './blank';
import { isMeasured, kernsOf } from './shape-kerning';
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
  const letters = visibleNeighbours(words, runs);
  return runs.map((run, r) => {
    const { start, end, style, instance, level, glyphs, item } = run;
    const em = instance.unitsPerEm;
    // Fitted lines have tracking and word space of any value: they are rounded in units.
    const tracking = Math.round(style.trackingMilliem * 10 * em);
    const wordSpace = Math.round(style.wordSpaceMilliem * 10 * em);
    const kerns = isMeasured(style) ? kernsOf(words, runs, r) : undefined;
    // By far the most letters are tracked whatever stands beside them.
    const always = letters === undefined && !item.cursive;
    const follows = runs[r + 1]?.glyphs[0]?.cluster;
    const count = glyphs.length;
    const advances = new Array<number>(count);
    const between = new Array<number>(count);
    let next = count > 0 ? glyphs[0] : undefined;
    for (let i = 0; i < count; i++) {
      const glyph = next;
      next = i + 1 < count ? glyphs[i + 1] : undefined;
      if (!glyph) continue;
      const { cluster } = glyph;
      const nextCluster = next ? next.cluster : follows;
      let units = glyph.xAdvance * UNITS;
      let gap = 0;
      // Inside a letter of several glyphs nothing is added.
      if (nextCluster !== cluster) {
        if (wordSpace !== 0 && isWordSpace(words.charAt(cluster))) units += wordSpace;
        if (nextCluster !== undefined) {
          let tenths = kerns ? (kerns[i] ?? 0) : 0;
          if (hand.size > 0) tenths += hand.get(nextCluster > cluster ? nextCluster : cluster) ?? 0;
          gap = tenths * em;
          if (always || isTracked(words, cluster, letters ? letters.get(cluster) : nextCluster, item.cursive)) gap += tracking;
          units += gap;
        }
      } else if (item.expanded?.has(cluster) && next && next.xAdvance > 0 && glyph.xAdvance > 0) {
        // Letters that the words have as one.
        units += tracking;
      }
      advances[i] = units;
      between[i] = gap;
    }
    return { start, end, style, instance, level, glyphs, item, advances, between, unitPt: (style.sizePt * style.scaleX) / (em * UNITS) };
  });
}

/** True where tracking stands between two letters: none beside what shows nothing, and none where strokes join them. */
function isTracked(words: string, left: number, right: number | undefined, cursive: boolean): boolean {
  if (right === undefined) return false;
  return !cursive || isSpace(words.charAt(left)) || isSpace(words.charAt(right));
}

/** The next visible letter behind each, by their clusters; undefined where everything is visible. */
function visibleNeighbours(words: string, runs: readonly StyledRun[]): ReadonlyMap<number, number> | undefined {
  let [start, end] = [words.length, 0];
  for (const run of runs) {
    if (run.start < start) ({ start } = run);
    if (run.end > end) ({ end } = run);
  }
  if (!hasInvisible(words.slice(start, end))) return undefined;
  const neighbours = new Map<number, number>();
  let open: number | undefined;
  for (const { glyphs } of runs) {
    for (const { cluster } of glyphs) {
      if (hasInvisible(words.charAt(cluster))) continue;
      if (open !== undefined && open !== cluster) neighbours.set(open, cluster);
      open = cluster;
    }
  }
  return neighbours;
}

/** The width of spaced letters in points, from the first letter's origin to the end of the last letter's advance. */
export function runsWidth(runs: readonly SpacedRun[]): number {
  let widthPt = 0;
  for (const { advances, unitPt } of runs) {
    let units = 0;
    for (const advance of advances) units += advance;
    widthPt += units * unitPt;
  }
  return widthPt;
}
