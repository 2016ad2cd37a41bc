/** Where the ink of a setting lies. */
import type { FaceInstance } from '../face';
import { type BlockSetting, type PlacedGlyph, type PlacedRun, runsOfLine } from './block-setting';
import { type Box, joinedBoxes } from './box';
import type { FaceSet } from './faces';
import { type Matrix, compose, isUpright, mappedBox } from './matrix';

/** From a glyph's own coordinates (font units, y up) to the sheet's (points, y down), its shift included: everything is drawn and measured through this. */
export function glyphMatrix({ xPt, yPt, shift }: PlacedGlyph, { scale, xScale }: Pick<PlacedRun, 'scale' | 'xScale'>): Matrix {
  const upright = { a: xScale, b: 0, c: 0, d: -scale, e: xPt, f: yPt };
  return shift ? compose(shift, upright) : upright;
}

/** The box around a glyph's ink where a matrix takes it; undefined where it has none. */
export function inkBox(glyphId: number, matrix: Matrix, instance: FaceInstance): Box | undefined {
  const ink = instance.inkBounds(glyphId);
  if (!ink) return undefined;
  const { a, d, e, f } = matrix;
  if (isUpright(matrix) && a > 0 && d < 0) return { leftPt: e + ink.xMin * a, topPt: f + ink.yMax * d, rightPt: e + ink.xMax * a, bottomPt: f + ink.yMin * d };
  return mappedBox(matrix, { leftPt: ink.xMin, topPt: ink.yMin, rightPt: ink.xMax, bottomPt: ink.yMax });
}

/** The box around a placed glyph's ink, the block not turned; undefined where it has none. */
export const inkOfGlyph = (glyph: PlacedGlyph, run: Pick<PlacedRun, 'scale' | 'xScale'>, instance: FaceInstance): Box | undefined =>
  inkBox(glyph.glyphId, glyphMatrix(glyph, run), instance);

/** The box around the ink of a block, not turned; undefined where there is none. */
export function inkOf({ lines }: Pick<BlockSetting, 'lines'>, faces: FaceSet): Box | undefined {
  return joinedBoxes(lines.flatMap(runsOfLine).map((run) => inkOfRun(run, faces.instance(run.style))));
}

/** Runs as they were measured last: after most edits all but a few are the very same. */
const measured = new WeakMap<PlacedRun, { instance: FaceInstance; ink: Box | undefined }>();

function inkOfRun(run: PlacedRun, instance: FaceInstance): Box | undefined {
  const known = measured.get(run);
  if (known?.instance === instance) return known.ink;
  const ink = joinedBoxes(run.glyphs.map((glyph) => inkOfGlyph(glyph, run, instance)));
  measured.set(run, { instance, ink });
  return ink;
}
