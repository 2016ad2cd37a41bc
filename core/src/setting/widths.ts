/** Break stage: how wide any stretch of a paragraph is, read off its list of advances. */
import { firstIndex } from '../base';
import type { ParagraphRange } from './paragraphs';
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
 * Running sums over the letters of a paragraph in the order of the words. What is left out at an end is looked up when it is asked for:
 * lines end in few of the places.
 * @param runs the whole paragraph, spaced in the order of its words.
 */
export function widthsOf(words: string, { start: first, end: last, levels }: Omit<ParagraphRange, 'runsLeft'>, runs: readonly SpacedRun[]): Widths {
  const length = last - first;
  const sums = new Float64Array(length + 1);
  /** The number, from 1, that the last glyph of a letter has in its run, by the place of the letter; 0 inside a ligature. */
  const lastGlyph = new Uint32Array(length + 1);
  for (const { glyphs, advances, between, unitPt } of runs) {
    const count = glyphs.length;
    let nextAt = (glyphs[0]?.cluster ?? 0) - first;
    for (let i = 0; i < count; i++) {
      const at = nextAt;
      nextAt = i + 1 < count ? (glyphs[i + 1]?.cluster ?? 0) - first : length;
      lastGlyph[at] = i + 1;
      let units = advances[i] ?? 0;
      if (nextAt < at) {
        // What stands between two letters belongs to the earlier in the words, whichever way they run.
        const gap = between[i] ?? 0;
        units -= gap;
        sums[nextAt + 1] = (sums[nextAt + 1] ?? 0) + gap * unitPt;
      }
      sums[at + 1] = (sums[at + 1] ?? 0) + units * unitPt;
    }
  }
  for (let i = 1; i <= length; i++) sums[i] = (sums[i] ?? 0) + (sums[i - 1] ?? 0);
  let asked = runs[0];
  const runAt = (at: number): SpacedRun | undefined => {
    const place = at + first;
    if (!asked || place < asked.start || place >= asked.end) asked = runs[firstIndex(runs.length, (r) => (runs[r]?.end ?? 0) > place)];
    return asked;
  };
  return {
    isSafe(at) {
      // Where letters run to the left, what stands beside what depends on the line.
      if (levels) return false;
      const glyph = (lastGlyph[at - first] ?? 0) - 1;
      return glyph < 0 || !runAt(at - first)?.glyphs[glyph]?.unsafeToBreak;
    },
    between(start, end) {
      if (end <= start) return 0;
      const to = end - first;
      // Inside a ligature, the whole of it stands before.
      let at = to - 1;
      while (at > 0 && lastGlyph[at] === 0) at--;
      const run = runAt(at);
      const trailing = run ? trailingUnits(words, run, (lastGlyph[at] ?? 0) - 1) * run.unitPt : 0;
      return (sums[to] ?? 0) - (sums[start - first] ?? 0) - trailing;
    },
  };
}

/** The trailing space to remove where a line ends after a letter, in units of advances: what stands only between it and the next. @param last its last glyph. */
function trailingUnits(words: string, { glyphs, between, instance, level }: SpacedRun, last: number): number {
  const glyph = glyphs[last];
  if (!glyph) return 0;
  const after = between[last] ?? 0;
  if (level % 2 === 1) {
    let before = last;
    while (before >= 0 && glyphs[before]?.cluster === glyph.cluster) before--;
    return (between[before] ?? 0) + (last === glyphs.length - 1 ? after : 0);
  }
  const next = glyphs[last + 1];
  // The font's own kerning with the next letter goes as well: the last letter is shaped anew.
  if (!next?.unsafeToBreak || insideWord(words, glyph.cluster, next.cluster)) return after;
  return after + (glyph.xAdvance - instance.advance(glyph.glyphId)) * 10_000;
}
