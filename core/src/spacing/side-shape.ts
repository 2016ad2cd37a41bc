/** The shape of a letter's side as a measured property: no letter is looked up. Lengths in em. */
import { valueAt } from '../base';
import { BAND, BANDS, type GlyphProfile, LOWEST, type GlyphSide, bandHeight } from './profile';

/**
 * The kind of a side: a stem, a bowl, a slope, a hollow that lets white in (beside a bar, an arm or a tail), or
 * none of these.
 */
export const SIDE_KINDS = ['straight', 'round', 'diagonal', 'open', 'mixed'] as const;
export type SideKind = (typeof SIDE_KINDS)[number];

/** A side, described. */
export interface SideShape {
  kind: SideKind;
  /** How far the lower, middle and upper third of the letter stand back from its nearest point on this side, on average, in em. */
  recess: readonly [lower: number, middle: number, upper: number];
}

/** A stem may waver this much through the middle of its height. */
const STRAIGHT_WITHIN = 0.015;
/** A slope moves at least this far over the letter's height, and a straight line explains this share of it. */
const SLOPE_LEAST = 0.06;
const SLOPE_FIT = 0.93;
/** A third that stands back this far on average is a hollow. */
const HOLLOW = 0.12;

const known = new WeakMap<GlyphSide, SideShape>();

/** Describes one side of a letter; each side is looked at once. */
export function sideShape(side: GlyphSide, profile: GlyphProfile): SideShape {
  let shape = known.get(side);
  if (!shape) {
    shape = describeSide(side, profile);
    known.set(side, shape);
  }
  return shape;
}

function describeSide(side: GlyphSide, profile: GlyphProfile): SideShape {
  const recess = recessOf(side, profile);
  const hollow = Math.max(...recess) >= HOLLOW;
  if (isStraight(side, profile) && !hollow) return { kind: 'straight', recess };
  if (isRound(side, profile)) return { kind: 'round', recess };
  if (isDiagonal(side, profile)) return { kind: 'diagonal', recess };
  return { kind: hollow ? 'open' : 'mixed', recess };
}

/** A side that keeps one distance through its middle: a stem. */
export function isStraight(side: GlyphSide, { bottom, top }: GlyphProfile): boolean {
  let nearest = Number.POSITIVE_INFINITY;
  let farthest = Number.NEGATIVE_INFINITY;
  for (let band = 0; band < BANDS; band++) {
    const share = (bandHeight(band) - bottom) / (top - bottom);
    if (share < 0.2 || share > 0.8) continue;
    nearest = Math.min(nearest, valueAt(side.raw, band));
    farthest = Math.max(farthest, valueAt(side.raw, band));
  }
  return farthest - nearest < STRAIGHT_WITHIN;
}

/** A side that is nearest at its middle and draws back evenly to top and bottom: a bowl. */
export function isRound(side: GlyphSide, { bottom, top }: GlyphProfile): boolean {
  const at = (share: number): number =>
    valueAt(side.raw, Math.max(0, Math.min(BANDS - 1, Math.round((bottom + share * (top - bottom) - bandHeight(0)) / BAND))));
  const middle = at(0.5);
  const low = at(0.08) - middle;
  const high = at(0.92) - middle;
  return low > 0.04 && high > 0.04 && Math.abs(low - high) < 0.1 && at(0.25) - middle < 0.08 && at(0.75) - middle < 0.08;
}

/** The bands a letter's ink covers, without the outermost tenth above and below, where serifs stand. */
function bandsOf({ bottom, top }: GlyphProfile, trim: number): { first: number; last: number } {
  const reach = (top - bottom) * trim;
  const first = Math.max(0, Math.ceil((bottom + reach - LOWEST) / BAND));
  return { first, last: Math.min(BANDS - 1, Math.floor((top - reach - LOWEST) / BAND) - 1) };
}

/** A side whose distance changes evenly from bottom to top: least squares over the heights between the serifs. */
function isDiagonal(side: GlyphSide, profile: GlyphProfile): boolean {
  const { first, last } = bandsOf(profile, 0.12);
  const count = last - first + 1;
  if (count < 5) return false;
  let sumX = 0;
  let sumY = 0;
  let sumXX = 0;
  let sumXY = 0;
  let sumYY = 0;
  for (let band = first; band <= last; band++) {
    const x = bandHeight(band);
    const y = valueAt(side.raw, band);
    sumX += x;
    sumY += y;
    sumXX += x * x;
    sumXY += x * y;
    sumYY += y * y;
  }
  const varianceX = sumXX - (sumX * sumX) / count;
  const varianceY = sumYY - (sumY * sumY) / count;
  const covariance = sumXY - (sumX * sumY) / count;
  if (varianceX <= 0 || varianceY <= 0) return false;
  const slope = covariance / varianceX;
  return Math.abs(slope) * (count * BAND) >= SLOPE_LEAST && (covariance * covariance) / (varianceX * varianceY) >= SLOPE_FIT;
}

function recessOf(side: GlyphSide, profile: GlyphProfile): [number, number, number] {
  const { first, last } = bandsOf(profile, 0.04);
  let nearest = Number.POSITIVE_INFINITY;
  for (let band = first; band <= last; band++) nearest = Math.min(nearest, valueAt(side.raw, band));
  const sums: [number, number, number] = [0, 0, 0];
  const counts: [number, number, number] = [0, 0, 0];
  for (let band = first; band <= last; band++) {
    const third = Math.min(2, Math.floor((3 * (band - first)) / Math.max(1, last - first + 1))) as 0 | 1 | 2;
    sums[third] += valueAt(side.raw, band) - nearest;
    counts[third]++;
  }
  return [sums[0] / Math.max(1, counts[0]), sums[1] / Math.max(1, counts[1]), sums[2] / Math.max(1, counts[2])];
}
