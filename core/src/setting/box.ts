/** Boxes on the sheet. */

/** A box on the sheet, in points, y down. */
export interface Box {
  leftPt: number;
  topPt: number;
  rightPt: number;
  bottomPt: number;
}

/** How far something reaches beyond a box, side by side, in points. */
export type Reach = Box;

/** A box with more room on every side. */
export const grown = (box: Box, by: Reach): Box => ({
  leftPt: box.leftPt - by.leftPt,
  topPt: box.topPt - by.topPt,
  rightPt: box.rightPt + by.rightPt,
  bottomPt: box.bottomPt + by.bottomPt,
});

/** True where two boxes share more than an edge. */
export const touches = (a: Box, b: Box): boolean => a.leftPt < b.rightPt && a.rightPt > b.leftPt && a.topPt < b.bottomPt && a.bottomPt > b.topPt;

/** The part of a box inside another; undefined where there is none. */
export function clipped(box: Box, by: Box): Box | undefined {
  if (!touches(box, by)) return undefined;
  return {
    leftPt: Math.max(box.leftPt, by.leftPt),
    topPt: Math.max(box.topPt, by.topPt),
    rightPt: Math.min(box.rightPt, by.rightPt),
    bottomPt: Math.min(box.bottomPt, by.bottomPt),
  };
}

/** The box around boxes; undefined around none. */
export function joinedBoxes(boxes: readonly (Box | undefined)[]): Box | undefined {
  return boxes.reduce<Box | undefined>(
    (all, box) =>
      !box || !all
        ? (all ?? box)
        : {
            leftPt: Math.min(all.leftPt, box.leftPt),
            topPt: Math.min(all.topPt, box.topPt),
            rightPt: Math.max(all.rightPt, box.rightPt),
            bottomPt: Math.max(all.bottomPt, box.bottomPt),
          },
    undefined,
  );
}
