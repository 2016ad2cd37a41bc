/**
 * Limits that keep a hostile job from costing more than a large real one. `letters` and `allBlocks` hold for all sheets together
 * (letters in UTF-16 code units), `features` and `axes` for one style: the shaper takes some thousand features a call at most.
 */
export const LIMITS = {
  sheets: 200,
  blocks: 400,
  allBlocks: 4_000,
  words: 20_000,
  letters: 100_000,
  runs: 2_000,
  hand: 20_000,
  pairs: 2_000,
  features: 200,
  axes: 64,
} as const;
