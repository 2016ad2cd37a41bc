/** The segmenter of letters as readers see them (UAX #29 grapheme clusters). */
const segmenter = new Intl.Segmenter('und', { granularity: 'grapheme' });

/** Letters before the first combining mark, U+0300: each of them is a grapheme of its own (UAX #29, table 2). */
const SIMPLE = /^[\n\x20-\u02ff]*$/;

/** All offsets of `text` that stand between two graphemes, in UTF-16 code units, ends not included. */
export function graphemeBoundaries(text: string): number[] {
  if (SIMPLE.test(text)) return Array.from({ length: Math.max(0, text.length - 1) }, (_, i) => i + 1);
  const boundaries: number[] = [];
  for (const { index } of segmenter.segment(text)) if (index > 0) boundaries.push(index);
  return boundaries;
}

/** True where no accent, emoji part or surrogate pair is cut by splitting `text` at `at`. */
export function isGraphemeBoundary(text: string, at: number): boolean {
  if (at <= 0 || at >= text.length) return at === 0 || at === text.length;
  return segmenter.segment(text).containing(at)?.index === at;
}
