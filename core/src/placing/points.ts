/** Points of a sheet, from its top left corner, y down. */
import type { BlockSetting } from '../setting';

export interface Point {
  xPt: number;
  yPt: number;
}

/** A point turned around another, clockwise on the sheet. */
export function turnedPoint(point: Point, around: Point, degrees: number): Point {
  const radians = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  const [x, y] = [point.xPt - around.xPt, point.yPt - around.yPt];
  return { xPt: around.xPt + x * cos - y * sin, yPt: around.yPt + x * sin + y * cos };
}

/** The middle of a frame: what a block turns around. */
export const middleOf = ({ xPt, yPt, widthPt, heightPt }: BlockSetting['frame']): Point => ({
  xPt: xPt + widthPt / 2,
  yPt: yPt + heightPt / 2,
});
