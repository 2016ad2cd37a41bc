/**
 * The score of an answer, 0 to 100: defined once, for page, command, server and simulation (docs/drill.md).
 *
 * A place that is off by e, in 1/1000 em, is worth 100 up to `FREE`, which is less than designers differ among themselves, and then
 * loses evenly, until nothing is left at `LOST`. A word is worth the mean of its letters but the first and last, which were given.
 * A leading counts in the same way by thousandths of the type size, between `LEADING_FREE` and `LEADING_LOST`. A choice is right or it is not.
 */
export const FREE = 4;
export const LOST = 40;
export const LEADING_FREE = 8;
export const LEADING_LOST = 120;
/** How far letters are dealt from where they belong at most, to each side. */
export const DEALT = 80;
/** From here on an answer is a good one: it carries a streak on. */
export const GOOD = 80;

const worth = (off: number, free: number, lost: number): number => 100 * (1 - Math.min(1, Math.max(0, (Math.abs(off) - free) / (lost - free))));

/** A letter's score by how far it is off, in 1/1000 em. */
export const letterScore = (off: number): number => worth(off, FREE, LOST);
/** The same of a leading, by thousandths of the size. */
export const leadingScore = (off: number): number => worth(off, LEADING_FREE, LEADING_LOST);

/** The mean score of letters left where they are, evenly strewn up to `spread` to both sides. */
export function chanceScore(spread: number): number {
  if (spread <= FREE) return 100;
  const reach = Math.min(spread, LOST) - FREE;
  // Full worth as far as nothing is lost, then a slope that falls from 100.
  return (100 * FREE + 100 * reach - (50 * reach ** 2) / (LOST - FREE)) / spread;
}

export const EXERCISES = ['place', 'even', 'wrong', 'leading', 'touch'] as const;
export type ExerciseKind = (typeof EXERCISES)[number];

/** The arithmetic mean; 0 of none. */
export const mean = (values: readonly number[]): number => (values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length);
