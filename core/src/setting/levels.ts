/** Levels of the Unicode Bidirectional Algorithm (UAX #9): which letters run to the left. */
import createBidi from 'bidi-js';
import type { WordRange } from '../job';

/** Characters that can begin anything other than one level throughout: letters of scripts that run to the left, and controls. */
const RUNS_LEFT = /[\u0590-\u08ff\u200f\u202b\u202e\u2067\ufb1d-\ufdff\ufe70-\ufeff]|[\ud802\ud803\ud83a\ud83b]/;

const bidi = createBidi();

/**
 * The embedding level of every code unit of a paragraph: odd where letters run to the left. The paragraph's own direction is that
 * of its first letter that has one (rules P2 and P3).
 * @returns undefined where everything runs to the right, as in by far the most.
 */
export function levelsOf(words: string, { start, end }: WordRange): Uint8Array | undefined {
  const text = words.slice(start, end);
  return RUNS_LEFT.test(text) ? bidi.getEmbeddingLevels(text).levels : undefined;
}
