/** The ink of blocks where it stands on the sheet, turned as they are: whether two lie over each other, and what would part them. Points, y down. */
import { valueAt } from '../base';
import { type FaceInstance, flatten } from '../face';
import { type Block } from '../job';
import {
  type BlockSetting,
  type Box,
  type FaceSet,
  type Matrix,
  applyToPoint,
  compose,
  glyphMatrix,
  inkBox,
  inkOf,
  joinedBoxes,
  rotateDEG,
  runsOfLine,
  touches,
} from '../setting';

/** A glyph on the sheet. */
interface Shape {
  glyphId: number;
  instance: FaceInstance;
  matrix: Matrix;
  box: Box;
}

/** The ink of one block. */
export interface SheetInk {
  box: Box;
  shapes: readonly Shape[];
}

/** Into how many pieces a curve goes: inks that lie over each other by less than such a piece bulges are taken to stand beside each other. */
const PIECES = 6;
/** No more pairs of glyphs than this are compared: what lies over something else meets it soon. */
const MOST_PAIRS = 20_000;

/** The ink of a block on its sheet; undefined where it has none. */
export function sheetInkOf(
  { rotationDeg }: Pick<Block, 'rotationDeg'>,
  { lines, frame }: Pick<BlockSetting, 'lines' | 'frame'>,
  faces: FaceSet,
): SheetInk | undefined {
  const turn = rotationDeg === 0 ? undefined : rotateDEG(rotationDeg, frame.xPt + frame.widthPt / 2, frame.yPt + frame.heightPt / 2);
  const shapes = lines.flatMap(runsOfLine).flatMap((run) => {
    const instance = faces.instance(run.style);
    return run.glyphs.flatMap((glyph): Shape[] => {
      const own = glyphMatrix(glyph, run);
      const matrix = turn ? compose(turn, own) : own;
      const box = inkBox(glyph.glyphId, matrix, instance);
      return box ? [{ glyphId: glyph.glyphId, instance, matrix, box }] : [];
    });
  });
  const box = joinedBoxes(shapes.map((shape) => shape.box));
  return box && { box, shapes };
}

/** The box around the ink of a block on its sheet: the cheap part of `sheetInkOf`. */
export const sheetBoxOf = (block: Pick<Block, 'rotationDeg'>, setting: Pick<BlockSetting, 'lines' | 'frame'>, faces: FaceSet): Box | undefined =>
  block.rotationDeg === 0 ? inkOf(setting, faces) : sheetInkOf(block, setting, faces)?.box;

/** An ink moved. */
export const movedInk = ({ box, shapes }: SheetInk, xPt: number, yPt: number): SheetInk => ({
  box: movedBox(box, xPt, yPt),
  shapes: shapes.map((shape) => ({
    ...shape,
    matrix: { ...shape.matrix, e: shape.matrix.e + xPt, f: shape.matrix.f + yPt },
    box: movedBox(shape.box, xPt, yPt),
  })),
});

const movedBox = (box: Box, xPt: number, yPt: number): Box => ({
  leftPt: box.leftPt + xPt,
  rightPt: box.rightPt + xPt,
  topPt: box.topPt + yPt,
  bottomPt: box.bottomPt + yPt,
});

/** True where two inks lie over each other: where outlines cross, or one stands on the other. */
export function inksMeet(a: SheetInk, b: SheetInk): boolean {
  if (!touches(a.box, b.box)) return false;
  const theirs = b.shapes.filter((shape) => touches(shape.box, a.box));
  const outlines = new Map<Shape, Float64Array>();
  const outlineOf = (shape: Shape): Float64Array => {
    const known = outlines.get(shape) ?? segmentsOf(shape);
    outlines.set(shape, known);
    return known;
  };
  let pairs = 0;
  for (const one of a.shapes) {
    for (const other of theirs) {
      if (!touches(one.box, other.box)) continue;
      if (++pairs > MOST_PAIRS) return true;
      if (outlinesMeet(outlineOf(one), outlineOf(other))) return true;
    }
  }
  return false;
}

/** How far the second must move down, or right, to clear the first wherever they face each other; 0 where nothing does. */
export function movesToClear(still: SheetInk, moving: SheetInk): { downPt: number; rightPt: number } {
  let [downPt, rightPt] = [0, 0];
  for (const { box: a } of still.shapes) {
    for (const { box: b } of moving.shapes) {
      if (a.leftPt < b.rightPt && a.rightPt > b.leftPt) downPt = Math.max(downPt, a.bottomPt - b.topPt);
      if (a.topPt < b.bottomPt && a.bottomPt > b.topPt) rightPt = Math.max(rightPt, a.rightPt - b.leftPt);
    }
  }
  return { downPt, rightPt };
}

/** A glyph's outline as straight pieces on the sheet: x0, y0, x1, y1 of each. */
function segmentsOf({ instance, glyphId, matrix }: Shape): Float64Array {
  const out: number[] = [];
  flatten(instance.outline(glyphId), PIECES, (x0, y0, x1, y1) => {
    if (x0 === x1 && y0 === y1) return;
    const [from, to] = [applyToPoint(matrix, { x: x0, y: y0 }), applyToPoint(matrix, { x: x1, y: y1 })];
    out.push(from.x, from.y, to.x, to.y);
  });
  return Float64Array.from(out);
}

function outlinesMeet(a: Float64Array, b: Float64Array): boolean {
  for (let i = 0; i < a.length; i += 4) for (let j = 0; j < b.length; j += 4) if (crosses(a, i, b, j)) return true;
  return isInside(a, b) || isInside(b, a);
}

const side = (ax: number, ay: number, bx: number, by: number, x: number, y: number): number => (bx - ax) * (y - ay) - (by - ay) * (x - ax);

/** True where two pieces cross; those that only touch don't. */
function crosses(a: Float64Array, i: number, b: Float64Array, j: number): boolean {
  const [ax, ay, bx, by] = [valueAt(a, i), valueAt(a, i + 1), valueAt(a, i + 2), valueAt(a, i + 3)];
  const [cx, cy, dx, dy] = [valueAt(b, j), valueAt(b, j + 1), valueAt(b, j + 2), valueAt(b, j + 3)];
  return side(ax, ay, bx, by, cx, cy) * side(ax, ay, bx, by, dx, dy) < 0 && side(cx, cy, dx, dy, ax, ay) * side(cx, cy, dx, dy, bx, by) < 0;
}

/** True where an outline, which crosses another nowhere, stands on its ink. */
function isInside(inner: Float64Array, outer: Float64Array): boolean {
  const [x, y] = [inner[0] ?? Number.NaN, inner[1] ?? Number.NaN];
  let winding = 0;
  for (let i = 0; i < outer.length; i += 4) {
    const [ax, ay, bx, by] = [valueAt(outer, i), valueAt(outer, i + 1), valueAt(outer, i + 2), valueAt(outer, i + 3)];
    if (ay <= y && by > y && side(ax, ay, bx, by, x, y) > 0) winding++;
    else if (ay > y && by <= y && side(ax, ay, bx, by, x, y) < 0) winding--;
  }
  return winding !== 0;
}
