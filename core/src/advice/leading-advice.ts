/** How far apart lines want to stand: by what their ink reaches up and down, and by their size (docs/leading.md). Lengths in em. */

/** Size at which text faces are drawn to be read, in points. */
const READING_PT = 14;
/** Clear distance between the lowest ink of one line and the highest of the next: at reading size, less with every doubling, never under the least. */
const CLEAR = 0.4;
const PER_DOUBLING = 0.12;
const LEAST_CLEAR = 0.08;
/** Lines in which nothing reaches down have all their white in one band, and want so much more of it; those that reach down so far nothing more. */
const LEVEL_MORE = 0.18;
const REACHES_DOWN = 0.2;

/** How far the ink of lines reaches from their baselines, in em. */
export interface LineReach {
  up: number;
  down: number;
}

/** Leading for lines of a size, in points, as a multiple of the size, in hundredths. */
export function adviseLeading({ up, down }: LineReach, sizePt: number): number {
  const clear = Math.max(LEAST_CLEAR, CLEAR - PER_DOUBLING * Math.max(0, Math.log2(sizePt / READING_PT)));
  const level = LEVEL_MORE * (1 - Math.min(1, Math.max(0, down) / REACHES_DOWN));
  return Math.round(100 * (up + Math.max(0, down) + clear + level)) / 100;
}
