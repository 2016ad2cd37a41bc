/** Placing: spaced letters of one line at their points of the sheet. The one place where y turns to grow downwards. */
import type { PlacedGlyph, PlacedRun } from './block-setting';
import { ruleLinesOf } from './dress';
import { moveOf, turnsOf } from './shift';
import type { SpacedRun } from './space';

/** Places the letters of a line from `leftPt` on its baseline. */
export function placeRuns(runs: readonly SpacedRun[], leftPt: number, baselinePt: number): PlacedRun[] {
  let startPt = leftPt;
  return runs.map((run): PlacedRun => {
    const { start, end, style, instance, glyphs, advances, unitPt } = run;
    const scale = (style.sizePt * style.scaleY) / instance.unitsPerEm;
    const xScale = (style.sizePt * style.scaleX) / instance.unitsPerEm;
    const turns = turnsOf(run);
    let shift = turns ? undefined : moveOf(run);
    let turned: number | undefined;
    const count = glyphs.length;
    const placed = new Array<PlacedGlyph>(count);
    let pen = 0;
    for (let i = 0; i < count; i++) {
      const glyph = glyphs[i];
      if (!glyph) continue;
      const { glyphId, cluster, xOffset, yOffset } = glyph;
      const xPt = startPt + (xOffset === 0 ? pen : pen + xOffset * 10_000) * unitPt;
      const offsetPt = xOffset * xScale;
      // All glyphs of a letter turn with it.
      if (turns && cluster !== turned) {
        turned = cluster;
        shift = turns({ xPt: startPt + pen * unitPt, widthPt: letterWidth(run, i) * unitPt, baselinePt });
      }
      placed[i] = shift
        ? { glyphId, cluster, xPt, yPt: baselinePt - yOffset * scale, offsetPt, shift }
        : { glyphId, cluster, xPt, yPt: baselinePt - yOffset * scale, offsetPt };
      pen += advances[i] ?? 0;
    }
    const widthPt = pen * unitPt;
    const rules = ruleLinesOf(run, { xPt: startPt, widthPt, baselinePt });
    startPt += widthPt;
    return { start, end, style, scale, xScale, glyphs: placed, rules };
  });
}

/** The room of the letter that begins at a glyph without what stands between it and the next, in units of advances. */
function letterWidth({ glyphs, advances, between }: SpacedRun, from: number): number {
  let width = 0;
  for (let i = from; i < glyphs.length && glyphs[i]?.cluster === glyphs[from]?.cluster; i++) width += (advances[i] ?? 0) - (between[i] ?? 0);
  return width;
}
