/** Break stage: how wide any stretch of a paragraph is, read off its list of advances. */
import type { WordRange } from '../job';
import type { SpacedRun } from './space';

const isLetter = (code: number): boolean => (code >= 0x41 && code <= 0x5a) || (code >= 0x61 && code <= 0x7a);

/** True between two plain letters, where no line ends: by far the most places. */
const insideWord = (words: string, left: number, right: number): boolean => isLetter(words.charCodeAt(left)) && isLetter(words.charCodeAt(right));

/** Widths of stretches of a paragraph, in points. */
export interface Widths {
  /** The width of `words.slice(start, end)` set on one line. */
  between(start: number, end: number): number;
  /** True where letters on both sides of a place stand as they would without each other: then a line that is cut there is exactly as wide. */
  isSafe(at: number): boolean;
}

/**
 * Running sums over the letters of a paragraph in the order of the words.
 * @param runs the whole paragraph, spaced.
 */
export function widthsOf(words: string, { start: first, end: last }: WordRange, runs: readonly SpacedRun[]): Widths {
  const length = last - first;
  const sums = new Float64Array(length + 1);
  /** What goes after a letter where a line ends there: what stands only between it and the next. */
  const trailing = new Float64Array(length + 1);
  /** The places before which a letter ends; none inside a ligature. */
  const ends = new Uint8Array(length + 1);
  ends[0] = 1;
  const unsafe = new Uint8Array(length + 1);
  for (const { glyphs, advances, between, instance, unitPt } of runs) {
    const fontPt = unitPt * 10_000;
    const count = glyphs.length;
    let next = glyphs[0];
    let nextAt = next ? next.cluster - first : -1;
    for (let i = 0; i < count; i++) {
      const glyph = next;
      const at = nextAt;
      if (!glyph) break;
      next = i + 1 < count ? glyphs[i + 1] : undefined;
      nextAt = next ? next.cluster - first : -1;
      if (glyph.unsafeToBreak) unsafe[at] = 1;
      const gap = (between[i] ?? 0) * unitPt;
      sums[at + 1] = (sums[at + 1] ?? 0) + (advances[i] ?? 0) * unitPt - gap;
      // What stands between two letters belongs to the earlier in the words, whichever way they run.
      const owner = nextAt >= 0 && nextAt < at ? nextAt + 1 : at + 1;
      sums[owner] = (sums[owner] ?? 0) + gap;
      ends[owner] = 1;
      let goes = gap;
      // The font's own kerning with the next letter goes as well: the last letter is shaped anew.
      if (nextAt > at && next?.unsafeToBreak && !insideWord(words, at + first, nextAt + first)) {
        goes += (glyph.xAdvance - instance.advance(glyph.glyphId)) * fontPt;
      }
      if (goes !== 0) trailing[owner] = (trailing[owner] ?? 0) + goes;
    }
  }
  for (let i = 1; i <= length; i++) {
    // Inside a ligature, the whole of it stands before.
    if (ends[i] === 0) trailing[i] = trailing[i - 1] ?? 0;
    sums[i] = (sums[i] ?? 0) + (sums[i - 1] ?? 0);
  }
  return {
    isSafe: (at) => unsafe[at - first] === 0,
    between(start, end) {
      if (end <= start) return 0;
      const to = end - first;
      return (sums[to] ?? 0) - (sums[start - first] ?? 0) - (trailing[to] ?? 0);
    },
  };
}
