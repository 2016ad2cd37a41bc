/** The visible part of a drawing: letters far off the sheet cost time and break renderers. */
import { type GroupNode, groupMatrix } from '../drawing';
import { type Box, type Reach, grown, inverse, mappedBox, touches } from '../setting';

/** The visible area, in the coordinates of the drawing. */
export interface Visible {
  /** Everything that could be seen lies in here. */
  seen: Box;
  /** Whether the box around a mapped box lies on the sheet, by more than a hair: renderers break on layers that don't. */
  shows(box: Box): boolean;
}

/** Less of a box on the sheet than this, in points, is nothing. */
const HAIR = 0.05;

/** A whole sheet is seen. */
export function sheetVisible({ widthPt, heightPt }: { widthPt: number; heightPt: number }): Visible {
  const inside = { leftPt: HAIR, topPt: HAIR, rightPt: widthPt - HAIR, bottomPt: heightPt - HAIR };
  return { seen: { leftPt: 0, topPt: 0, rightPt: widthPt, bottomPt: heightPt }, shows: (box) => touches(box, inside) };
}

/** The visible area inside a group. */
export function visibleIn(group: GroupNode, visible: Visible): Visible {
  const matrix = groupMatrix(group);
  if (!matrix) return visible;
  return { seen: mappedBox(inverse(matrix), visible.seen), shows: (box) => visible.shows(mappedBox(matrix, box)) };
}

export const onEverySide = (pt: number): Reach => ({ leftPt: pt, topPt: pt, rightPt: pt, bottomPt: pt });

/** The visible area, widened by the reach of an effect. */
export const widened = ({ seen, shows }: Visible, pt: number): Visible => ({ seen: grown(seen, onEverySide(pt)), shows });
