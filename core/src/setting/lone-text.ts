/** A short text set by itself beside the words: a list mark or an ellipsis. */
import type { ShapedGlyph } from '../face';
import type { Style } from '../job';
import type { PlacedGlyph, PlacedRun } from './block-setting';
import type { FaceSet } from './faces';

export interface LoneText {
  readonly style: Style;
  readonly scale: number;
  readonly xScale: number;
  readonly glyphs: readonly ShapedGlyph[];
  readonly widthPt: number;
}

export function shapeLone(text: string, style: Style, faces: FaceSet): LoneText {
  const instance = faces.instance(style);
  const glyphs = instance.shape(text, 0, text.length);
  const em = style.sizePt / instance.unitsPerEm;
  const xScale = em * style.scaleX;
  return { style, scale: em * style.scaleY, xScale, glyphs, widthPt: glyphs.reduce((sum, { xAdvance }) => sum + xAdvance, 0) * xScale };
}

/** Places it. @param at the offset in the words that it stands at: it stands for none of them. */
export function placeLone({ style, scale, xScale, glyphs }: LoneText, at: number, { leftPt, baselinePt }: { leftPt: number; baselinePt: number }): PlacedRun {
  let pen = 0;
  const placed = glyphs.map(({ glyphId, xAdvance, xOffset, yOffset }): PlacedGlyph => {
    const glyph = { glyphId, cluster: at, xPt: leftPt + (pen + xOffset) * xScale, yPt: baselinePt - yOffset * scale, offsetPt: xOffset * xScale };
    pen += xAdvance;
    return glyph;
  });
  return { start: at, end: at, style, scale, xScale, glyphs: placed, rules: [] };
}
