/** Where a reference lies on its sheet: a map from its own coordinates (pixels, or points of another sheet) to the sheet's points. */
import { FARTHEST_PT, LEAST_SCALE, MOST_SCALE, type Reference } from '../job';
import { type Point, turnedPoint } from '../placing';
import type { Matrix } from '../setting';

export type ReferencePlace = Pick<Reference, 'xPt' | 'yPt' | 'scale' | 'turnDeg'>;

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** As SVG writes it. */
export function placeMatrix({ xPt, yPt, scale, turnDeg }: ReferencePlace): Matrix {
  const [cos, sin] = [scale * Math.cos(radians(turnDeg)), scale * Math.sin(radians(turnDeg))];
  return { a: cos, b: sin, c: -sin, d: cos, e: xPt, f: yPt };
}

/** A place of the reference on the sheet. */
export function placeOnSheet({ x, y }: { x: number; y: number }, place: ReferencePlace): Point {
  const { a, b, c, d, e, f } = placeMatrix(place);
  return { xPt: a * x + c * y + e, yPt: b * x + d * y + f };
}

/** A place on the sheet that is seen through the reference, and where that is to come to lie. */
export interface PointPair {
  from: Point;
  to: Point;
}

/** Points that are nearer to each other than this give neither scale nor turn, in points. */
const LEAST_APART = 2;

/**
 * Moves a reference so that one place of it comes to lie where it is wanted; with two, scaled and turned as well.
 * @returns undefined where two pairs are so near to each other that nothing follows from them, or where it would be larger, smaller or
 * farther away than a job holds.
 */
export function placedByPairs<Place extends ReferencePlace>(place: Place, [first, second]: readonly [PointPair, PointPair?]): Place | undefined {
  if (!second) return possible({ ...place, xPt: place.xPt + first.to.xPt - first.from.xPt, yPt: place.yPt + first.to.yPt - first.from.yPt });
  const [was, is] = [between(first.from, second.from), between(first.to, second.to)];
  if (was.length < LEAST_APART || is.length < LEAST_APART) return undefined;
  const by = is.length / was.length;
  const degrees = ((is.radians - was.radians) * 180) / Math.PI;
  const corner = turnedPoint({ xPt: place.xPt, yPt: place.yPt }, first.from, degrees);
  return possible({
    ...place,
    xPt: first.to.xPt + (corner.xPt - first.from.xPt) * by,
    yPt: first.to.yPt + (corner.yPt - first.from.yPt) * by,
    scale: place.scale * by,
    turnDeg: upright(place.turnDeg + degrees),
  });
}

const possible = <Place extends ReferencePlace>(place: Place): Place | undefined =>
  Math.max(Math.abs(place.xPt), Math.abs(place.yPt)) <= FARTHEST_PT && place.scale >= LEAST_SCALE && place.scale <= MOST_SCALE ? place : undefined;

function between(from: Point, to: Point): { length: number; radians: number } {
  const [x, y] = [to.xPt - from.xPt, to.yPt - from.yPt];
  return { length: Math.hypot(x, y), radians: Math.atan2(y, x) };
}

/** An angle between -180 and 180 degrees. */
export const upright = (degrees: number): number => degrees - 360 * Math.round(degrees / 360);

/** As large as fits within the sheet, in its middle, and level. @param size of the reference in its own coordinates. */
export function fittedPlace(size: { width: number; height: number }, sheet: { widthPt: number; heightPt: number }): ReferencePlace {
  const scale = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, Math.min(sheet.widthPt / size.width, sheet.heightPt / size.height)));
  return { scale, turnDeg: 0, xPt: (sheet.widthPt - size.width * scale) / 2, yPt: (sheet.heightPt - size.height * scale) / 2 };
}
