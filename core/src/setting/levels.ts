/** Levels of the Unicode Bidirectional Algorithm (UAX #9): which letters run to the left. */
import createBidi from 'bidi-js';
import type { WordRange } from '../job';

/** Characters that can begin anything other than one level throughout: letters of scripts that run to the left, and controls. */
const RUNS_LEFT = /[\u0590-\u08ff\u200f\u202b\u202e\u2067\ufb1d-\ufdff\ufe70-\ufeff]|[\ud802\ud803\ud83a\ud83b]/;

/** Made when letters that run to the left are met: its tables take a while, and those who only ask for lines need none. */
let bidi: ReturnType<typeof createBidi> | undefined;

/** Which way a paragraph and its letters run. */
export interface Directions {
  /** The embedding level of every code unit: odd where letters run to the left. Undefined where everything runs to the right, as in by far the most. */
  readonly levels: Uint8Array | undefined;
  /** True where the paragraph itself does: it begins at the right. */
  readonly runsLeft: boolean;
}

/** The directions in a paragraph; its own is that of its first letter that has one (rules P2 and P3). */
export function directionsOf(words: string, { start, end }: WordRange): Directions {
  const text = words.slice(start, end);
  if (!RUNS_LEFT.test(text)) return { levels: undefined, runsLeft: false };
  bidi ??= createBidi();
  const { levels, paragraphs } = bidi.getEmbeddingLevels(text);
  return { levels, runsLeft: (paragraphs[0]?.level ?? 0) % 2 === 1 };
}
