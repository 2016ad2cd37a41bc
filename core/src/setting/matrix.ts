/** Affine maps, as SVG writes them: `matrix(a b c d e f)` takes (x, y) to (ax + cy + e, bx + dy + f). */
import { type Matrix, applyToPoint, compose, inverse, rotateDEG, translate } from 'transformation-matrix';
import type { Box } from './box';

export { type Matrix, applyToPoint, compose, inverse, rotateDEG, translate };

/** A map that moves and turns nothing, and scales along the axes only. */
export const isUpright = ({ b, c }: Matrix): boolean => b === 0 && c === 0;

/** The box around a box that is mapped. */
export function mappedBox(matrix: Matrix, { leftPt, topPt, rightPt, bottomPt }: Box): Box {
  const corners = [leftPt, rightPt].flatMap((x) => [topPt, bottomPt].map((y) => applyToPoint(matrix, { x, y })));
  const [xs, ys] = [corners.map(({ x }) => x), corners.map(({ y }) => y)];
  return { leftPt: Math.min(...xs), topPt: Math.min(...ys), rightPt: Math.max(...xs), bottomPt: Math.max(...ys) };
}
