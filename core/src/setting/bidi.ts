/** Lines with words that run to the left: levels and visual order by the Unicode Bidirectional Algorithm (UAX #9). */
import createBidi from 'bidi-js';
import type { Stretch } from './itemise';

/** Characters that can begin anything other than one level throughout: letters of scripts that run to the left, and controls. */
const RUNS_LEFT = /[\u0590-\u08ff\u200f\u202b\u202e\u2067\ufb1d-\ufdff\ufe70-\ufeff]|[\ud802\ud803\ud83a\ud83b]/;

const bidi = createBidi();
/** The paragraph that was asked for last: its lines are shaped one after the other. */
let known: { text: string; levels: Uint8Array } | undefined;

/**
 * The embedding level of every code unit of a paragraph: odd where letters run to the left. The paragraph's own direction is that
 * of its first letter that has one (rules P2 and P3).
 * @returns undefined where everything runs to the right, as in by far the most.
 */
export function levelsOf(words: string, { start, end }: Stretch): Uint8Array | undefined {
  const text = words.slice(start, end);
  if (!RUNS_LEFT.test(text)) return undefined;
  if (known?.text !== text) known = { text, levels: bidi.getEmbeddingLevels(text).levels };
  return known.levels;
}

/** Runs of one line, given in the order of the words, in the order they stand in: rule L2. The list itself where nothing moves. */
export function inVisualOrder<T extends { level: number }>(runs: T[]): T[] {
  const highest = runs.reduce((most, { level }) => Math.max(most, level), 0);
  if (highest === 0) return runs;
  const ordered = [...runs];
  for (let level = highest; level > 0; level--) {
    for (let from = 0; from < ordered.length; from++) {
      let to = from;
      while (to < ordered.length && (ordered[to]?.level ?? 0) >= level) to++;
      if (to - from > 1) ordered.splice(from, to - from, ...ordered.slice(from, to).reverse());
      if (to > from) from = to;
    }
  }
  return ordered;
}
