/** Where a sheet is seen on the table, and what stands where there. */
import type { Point } from '@jentrix/core/placing';

/** The sheet's corner on the table in pixels, and its scale in pixels per point. */
export interface TableView {
  readonly x: number;
  readonly y: number;
  readonly k: number;
}

/** The smallest and the largest scale that is zoomed to by hand, in pixels per point. */
export const SCALES = [0.02, 60] as const;

/** As an SVG transform. */
export const transformOfView = ({ x, y, k }: TableView): string => `translate(${x},${y}) scale(${k})`;

/** A point of the sheet on the table, in pixels. */
export const onTable = ({ x, y, k }: TableView, { xPt, yPt }: Point): [number, number] => [x + xPt * k, y + yPt * k];

/** A point of the table on the sheet. */
export const onSheet = ({ x, y, k }: TableView, [left, top]: readonly [number, number]): Point => ({ xPt: (left - x) / k, yPt: (top - y) / k });

/** The view larger or smaller by a factor, about a point of the table that stays where it is. */
export function scaledView({ x, y, k }: TableView, factor: number, [left, top]: readonly [number, number]): TableView {
  const to = Math.min(SCALES[1], Math.max(SCALES[0], k * factor));
  return { x: left - ((left - x) * to) / k, y: top - ((top - y) * to) / k, k: to };
}
