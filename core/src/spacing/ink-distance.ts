/**
 * The distance between two inks, measured on their outlines as straight pieces (curves within 1/1000 em). Lengths in em. Every other
 * measure of spacing looks at edges height by height; whether inks touch is asked here.
 */
import { valueAt } from '../base';
import { BAND, type GlyphProfile, HIGHEST, LOWEST, type GlyphSide, type Standing } from './profile';
import { roughDistance } from './white';

/** Inks that stand farther apart than this by their edges are not measured on their outlines: nobody asks how much farther. */
const FAR = 0.4;
/** Outlines of more pieces than this are measured by their edges alone: a hostile font may have any number. */
const MOST_PIECES = 4000;
/** Edges that pass each other by more than this at one height overlap, whether their outlines cross or one lies inside the other. */
const PASSED = 0.01;

/** Two letters side by side: the sides they turn to each other, and how the right one stands against the left. */
export interface Neighbours {
  left: GlyphProfile;
  right: GlyphProfile;
  facing: { left: GlyphSide; right: GlyphSide };
  standing: Standing;
}

/**
 * The smallest distance between the inks of two neighbours in any direction, their advances moved apart by `offset`.
 * 0 or less where they touch or overlap; infinite where one has no ink at heights that are measured.
 */
export function inkDistance(neighbours: Neighbours, offset = 0): number {
  const { left, right, standing } = neighbours;
  if (standing.scale !== 1 || standing.across !== 1 || standing.shift !== 0) return measured(neighbours, offset);
  // Words are set again and again while few of their gaps change. What level letters turn to each other follows from themselves.
  let ofLeft = known.get(left);
  if (!ofLeft) known.set(left, (ofLeft = new WeakMap()));
  let distances = ofLeft.get(right);
  if (!distances || distances.size > MOST_KNOWN) ofLeft.set(right, (distances = new Map<number, number>()));
  let distance = distances.get(offset);
  if (distance === undefined) distances.set(offset, (distance = measured(neighbours, offset)));
  return distance;
}

/** Distances of two letters that stand level, by their offset. */
const known = new WeakMap<GlyphProfile, WeakMap<GlyphProfile, Map<number, number>>>();
/** So many offsets of a pair are kept. */
const MOST_KNOWN = 200;

function measured({ left, right, facing, standing }: Neighbours, offset: number): number {
  const rough = Math.min(roughDistance(facing.left, facing.right, offset), beyondBands(left, right, standing, offset));
  if (rough > FAR || rough < -PASSED) return rough;
  const limit = Math.max(0, rough) + 2 * BAND;
  const exact = outlineDistance(left, right, standing, offset, limit);
  if (exact <= 0) return Math.min(0, rough);
  return exact < limit ? exact : rough;
}

/** The distance of two letters that both reach beyond the heights that edges are measured at, by their boxes; else infinite. */
function beyondBands(left: GlyphProfile, right: GlyphProfile, { scale, across, shift }: Standing, offset: number): number {
  const above = left.top > HIGHEST && right.top * scale + shift > HIGHEST;
  const below = left.bottom < LOWEST && right.bottom * scale + shift < LOWEST;
  if (!above && !below) return Number.POSITIVE_INFINITY;
  return Math.max(0, left.advance - left.inkRight + right.inkLeft * across + offset);
}

/** The smallest distance between two outlines, 0 where they cross; `limit` where it is larger. */
function outlineDistance(left: GlyphProfile, right: GlyphProfile, { scale, across, shift }: Standing, offset: number, limit: number): number {
  const [ours, theirs] = [left.pieces(), right.pieces()];
  if (Math.max(ours.length, theirs.length) > 4 * MOST_PIECES) return limit;
  const moved = left.advance + offset;
  const begins = right.inkLeft * across + moved - limit;
  const facing: number[] = [];
  for (let j = 0; j < theirs.length; j += 4) {
    const x0 = valueAt(theirs, j) * across + moved;
    const x1 = valueAt(theirs, j + 2) * across + moved;
    if ((x0 < x1 ? x0 : x1) < left.inkRight + limit) facing.push(x0, valueAt(theirs, j + 1) * scale + shift, x1, valueAt(theirs, j + 3) * scale + shift);
  }
  let nearest = limit;
  for (let i = 0; i < ours.length; i += 4) {
    const ax = valueAt(ours, i);
    const ay = valueAt(ours, i + 1);
    const bx = valueAt(ours, i + 2);
    const by = valueAt(ours, i + 3);
    const rightmost = ax > bx ? ax : bx;
    if (rightmost < begins) continue;
    const leftmost = ax > bx ? bx : ax;
    const low = ay > by ? by : ay;
    const high = ay > by ? ay : by;
    for (let j = 0; j < facing.length; j += 4) {
      const cy = facing[j + 1] ?? 0;
      const dy = facing[j + 3] ?? 0;
      if ((cy < dy ? cy : dy) - high >= nearest || low - (cy < dy ? dy : cy) >= nearest) continue;
      const cx = facing[j] ?? 0;
      const dx = facing[j + 2] ?? 0;
      if ((cx < dx ? cx : dx) - rightmost >= nearest || leftmost - (cx < dx ? dx : cx) >= nearest) continue;
      if (turnSign(ax, ay, bx, by, cx, cy) !== turnSign(ax, ay, bx, by, dx, dy) && turnSign(cx, cy, dx, dy, ax, ay) !== turnSign(cx, cy, dx, dy, bx, by))
        return 0;
      nearest = Math.min(
        nearest,
        toPiece(ax, ay, cx, cy, dx, dy),
        toPiece(bx, by, cx, cy, dx, dy),
        toPiece(cx, cy, ax, ay, bx, by),
        toPiece(dx, dy, ax, ay, bx, by),
      );
    }
  }
  return nearest;
}

/** On which side of a line a point lies. */
const turnSign = (ax: number, ay: number, bx: number, by: number, px: number, py: number): number => Math.sign((bx - ax) * (py - ay) - (by - ay) * (px - ax));

/** The distance of a point from a straight piece. */
function toPiece(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const length = dx * dx + dy * dy;
  const along = length > 0 ? Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / length)) : 0;
  return Math.sqrt((px - ax - along * dx) ** 2 + (py - ay - along * dy) ** 2);
}
