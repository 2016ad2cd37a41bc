/** Placing: spaced letters of one line at their points of the sheet. The one place where y turns to grow downwards. */
import type { PlacedGlyph, PlacedRun } from './block-setting';
import { rulesOf } from './dress';
import { shiftOf } from './shift';
import type { SpacedRun } from './space';

/** Places the letters of a line from `leftPt` on its baseline. */
export function placeRuns(runs: readonly SpacedRun[], leftPt: number, baselinePt: number): PlacedRun[] {
  let startPt = leftPt;
  return runs.map((run): PlacedRun => {
    const { start, end, style, instance, glyphs, advances, unitPt } = run;
    const scale = (style.sizePt * style.scaleY) / instance.unitsPerEm;
    const xScale = (style.sizePt * style.scaleX) / instance.unitsPerEm;
    const shift = shiftOf(style);
    const count = glyphs.length;
    const placed = new Array<PlacedGlyph>(count);
    let pen = 0;
    for (let i = 0; i < count; i++) {
      const glyph = glyphs[i];
      if (!glyph) continue;
      const { glyphId, cluster, xOffset, yOffset } = glyph;
      const xPt = startPt + (xOffset === 0 ? pen : pen + xOffset * 10_000) * unitPt;
      const offsetPt = xOffset * xScale;
      placed[i] = shift
        ? { glyphId, cluster, xPt, yPt: baselinePt - yOffset * scale, offsetPt, shift }
        : { glyphId, cluster, xPt, yPt: baselinePt - yOffset * scale, offsetPt };
      pen += advances[i] ?? 0;
    }
    const widthPt = pen * unitPt;
    const rules = rulesOf(style, instance, { xPt: startPt, widthPt, baselinePt });
    startPt += widthPt;
    return { start, end, style, scale, xScale, glyphs: placed, rules };
  });
}
