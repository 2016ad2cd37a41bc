/**
 * The white of a gap. A power mean of the distances between two facing sides, in which near places count far more than
 * distant ones: the closed form described in docs/spacing.md, step 3. Lengths in em.
 */
import { valueAt } from '../base';
import { BAND, BANDS, DEEPEST, type GlyphSide, bandHeight } from './profile';

/** Keeps the sum finite where inks touch, and how deep an overlap is still told apart. */
export const EASE = 0.1;
const OVERLAP = -0.07;

/** Heights below the baseline count half: there the eye looks less. Weights sum to 1. */
const WEIGHTS = (() => {
  const weights = Float64Array.from({ length: BANDS }, (_, band) => (bandHeight(band) < 0 ? 0.5 : 1));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return weights.map((weight) => weight / sum);
})();

/** Powers of the mean: 4 feels the nearest place most, 2 the whole column of white. */
export type Power = 2 | 4;

/** The measured white between two facing sides, the left letter's and the right letter's, whose advances are moved apart by `offset`. Grows with the offset. */
export function whiteBetween(left: GlyphSide, right: GlyphSide, offset: number, power: Power): number {
  let sum = 0;
  for (let band = 0; band < BANDS; band++) {
    const distance = Math.max((left.seen[band] ?? DEEPEST) + (right.seen[band] ?? DEEPEST) + offset, OVERLAP) + EASE;
    const square = distance * distance;
    sum += valueAt(WEIGHTS, band) / (power === 4 ? square * square : square);
  }
  return power === 4 ? 1 / Math.sqrt(Math.sqrt(sum)) : 1 / Math.sqrt(sum);
}

/**
 * The offset at which the white of a gap equals a target, by damped Newton steps from 0.
 * @returns em; positive where the gap must open.
 */
export function offsetForWhite(left: GlyphSide, right: GlyphSide, target: number, power: Power): number {
  let offset = 0;
  for (let step = 0; step < 5; step++) {
    let sum = 0;
    let slope = 0;
    for (let band = 0; band < BANDS; band++) {
      const open = (left.seen[band] ?? DEEPEST) + (right.seen[band] ?? DEEPEST) + offset;
      const distance = Math.max(open, OVERLAP) + EASE;
      const square = distance * distance;
      const term = valueAt(WEIGHTS, band) / (power === 4 ? square * square : square);
      sum += term;
      if (open > OVERLAP) slope += term / distance;
    }
    const white = power === 4 ? 1 / Math.sqrt(Math.sqrt(sum)) : 1 / Math.sqrt(sum);
    const rate = (white / sum) * slope;
    if (rate < 1e-6) break;
    offset += Math.max(-0.15, Math.min(0.15, (target - white) / rate));
    offset = Math.max(-DEEPEST, Math.min(DEEPEST, offset));
  }
  return offset;
}

/** Where two facing inks come nearest, straight across: distance and height in em. Negative: they overlap. */
export function nearestInk(left: GlyphSide, right: GlyphSide): { distance: number; height: number } {
  let distance = Number.POSITIVE_INFINITY;
  let height = 0;
  for (let band = 0; band < BANDS; band++) {
    const here = (left.raw[band] ?? DEEPEST) + (right.raw[band] ?? DEEPEST);
    if (here < distance) {
      distance = here;
      height = bandHeight(band);
    }
  }
  return { distance, height };
}

/**
 * About the smallest distance between two inks in any direction, in em, by their edges: straight across within a band, and diagonally
 * between bands. 0 or less where they touch or overlap.
 */
export function roughDistance(left: GlyphSide, right: GlyphSide, offset = 0): number {
  let smallest = Number.POSITIVE_INFINITY;
  // Level bands first, then ever farther apart: no pair can be nearer than the bands between them are high.
  for (let apart = 0; apart < BANDS; apart++) {
    const up = Math.max(0, apart - 0.5) * BAND;
    if (up >= smallest) break;
    for (let band = 0; band + apart < BANDS; band++) {
      const one = distanceOf(left.raw[band], right.raw[band + apart], offset, up);
      if (one < smallest) smallest = one;
      if (apart === 0) continue;
      const other = distanceOf(left.raw[band + apart], right.raw[band], offset, up);
      if (other < smallest) smallest = other;
    }
  }
  return smallest;
}

/** The distance of two edges. @param up how far apart in height their bands are at least; 0 for the same band. */
function distanceOf(edge = DEEPEST, other = DEEPEST, offset: number, up: number): number {
  if (edge >= DEEPEST || other >= DEEPEST) return Number.POSITIVE_INFINITY;
  const across = edge + other + offset;
  if (across <= 0) return up === 0 ? across : up;
  return up === 0 ? across : Math.sqrt(across * across + up * up);
}
