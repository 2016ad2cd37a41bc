/** The measures of a pair that the proposal uses. */
import { valueAt } from '../base';
import { BANDS, type GlyphProfile, type GlyphSide, bandHeight } from './profile';
import { type Rhythm, bearingsOf, heightClass } from './rhythm';
import type { CharacterKind } from './sign';
import { nearestInk, offsetForWhite } from './white';

/** A letter as it stands in a gap. */
export interface GapSide extends Partial<CharacterKind> {
  profile: GlyphProfile;
  rhythm: Rhythm;
}

export const FEATURE_COUNT = 37;
/**
 * Where each measure is found when the pair is seen in a mirror: what the left letter shows and what the right one shows change
 * places. Training shows pairs both ways.
 */
export const MIRRORED: readonly number[] = [
  ...[0, 1, 4, 5, 2, 3, 7, 6, 8, 9, 10, 11],
  ...[13, 12, 15, 14, 17, 16, 19, 18, 21, 20, 22, 23, 24, 25],
  ...[30, 31, 32, 33, 26, 27, 28, 29, 35, 34, 36],
];

/**
 * How far a gap is off the face's target beyond what the bearing of one of its letters already does, whatever stands beside it:
 * the mean over tall and short neighbours. In em.
 * @param of which letter's bearing is taken off.
 */
export function beyondBearing(measures: ArrayLike<number>, of: 'left' | 'right'): number {
  const bearing = of === 'left' ? 2 : 4;
  return valueAt(measures, 0) - (valueAt(measures, bearing) + valueAt(measures, bearing + 1)) / 2;
}

const clamp = (value: number, limit: number): number => Math.max(-limit, Math.min(limit, value));

/** Zones of height, as shares of x-height and capital height: below the baseline, lower and upper x, above x, above capitals. */
function zoneOf(height: number, { xHeight, capHeight }: Rhythm): number {
  if (height < -0.01) return 0;
  if (height < xHeight / 2) return 1;
  if (height < xHeight) return 2;
  return height < capHeight ? 3 : 4;
}

/** The white, in em, that the left letter's face puts between letters of these heights (power 4). */
export function targetOf(left: GapSide, right: GapSide): number {
  return left.rhythm.targets[4][heightClass(left.profile, left.rhythm)][heightClass(right.profile, left.rhythm)];
}

/** Two letters side by side, and the sides they turn to each other. */
export interface PairSides {
  left: GapSide;
  right: GapSide;
  facing: { left: GlyphSide; right: GlyphSide };
}

/**
 * Measures a pair.
 * @param facing the side that the left letter shows and the one that the right letter shows, as they are placed.
 * @param out receives `FEATURE_COUNT` numbers.
 * @returns the offset in em at which the pair's white meets the face's target.
 */
export function measurePair({ left, right, facing }: PairSides, out: Float64Array): number {
  const { rhythm } = left;
  const a = heightClass(left.profile, rhythm);
  const b = heightClass(right.profile, rhythm);
  const near = offsetForWhite(facing.left, facing.right, rhythm.targets[4][a][b], 4);
  const wide = offsetForWhite(facing.left, facing.right, rhythm.targets[2][a][b], 2);
  const row = bearingsOf(left.profile, rhythm).right;
  const column = bearingsOf(right.profile, right.rhythm).left;
  const ink = nearestInk(facing.left, facing.right);

  let i = 0;
  const put = (value: number, limit: number): void => {
    out[i++] = clamp(value, limit);
  };
  put(near, 0.3);
  put(wide, 0.3);
  put(row.tall, 0.3);
  put(row.short, 0.3);
  put(column.tall, 0.3);
  put(column.short, 0.3);
  // The offset beyond what both letters' bearings already do.
  put(near - (b === 'tall' ? row.tall : row.short), 0.3);
  put(near - (a === 'tall' ? column.tall : column.short), 0.3);
  put(near - (b === 'tall' ? row.tall : row.short) - (a === 'tall' ? column.tall : column.short), 0.3);
  put(near - row.short - column.short, 0.3);
  put(ink.distance, 0.5);
  put(ink.height, 1);

  const zones = { right: [0, 0, 0, 0, 0], left: [0, 0, 0, 0, 0], count: [0, 0, 0, 0, 0], near: [1, 1, 1, 1, 1] };
  for (let band = 0; band < BANDS; band++) {
    const zone = zoneOf(bandHeight(band), rhythm);
    const r = valueAt(facing.left.seen, band);
    const l = valueAt(facing.right.seen, band);
    zones.right[zone] = (zones.right[zone] ?? 0) + r;
    zones.left[zone] = (zones.left[zone] ?? 0) + l;
    zones.count[zone] = (zones.count[zone] ?? 0) + 1;
    zones.near[zone] = Math.min(zones.near[zone] ?? 1, r + l);
  }
  for (let zone = 0; zone < 5; zone++) {
    const count = Math.max(1, zones.count[zone] ?? 1);
    put((zones.right[zone] ?? 0) / count, 0.5);
    put((zones.left[zone] ?? 0) / count, 0.5);
  }
  for (let zone = 0; zone < 4; zone++) put(zones.near[zone] ?? 1, 0.7);

  for (const { profile } of [left, right]) {
    put(profile.top - rhythm.capHeight, 0.4);
    put(profile.top - rhythm.xHeight, 0.6);
    put(profile.bottom, 0.6);
    put(profile.leantRight - profile.leantLeft, 1);
  }
  put(left.profile.advance - left.profile.leantRight, 0.3);
  put(right.profile.leantLeft, 0.3);
  put(left.profile.lean.slope, 0.4);
  return near;
}
