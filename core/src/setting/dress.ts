/** Dress stage: what is drawn with letters besides their outlines. */
import type { RuleLine } from './block-setting';
import { type StyledFace, raisePt } from './shift';

/** Where a run's rules go, in points. */
export interface RuleRoom {
  xPt: number;
  widthPt: number;
  baselinePt: number;
}

/** Underline and strike-through of a run, by the font's own metrics; they rise with their letters. */
export function ruleLinesOf(face: StyledFace, { xPt, widthPt, baselinePt }: RuleRoom): RuleLine[] {
  const { style } = face;
  const { metrics, unitsPerEm } = face.instance;
  if (!style.underline && !style.strike) return [];
  const scale = (style.sizePt * style.scaleY) / unitsPerEm;
  const rule = (offset: number, size: number): RuleLine => ({ xPt, yPt: baselinePt - raisePt(face) - offset * scale, widthPt, heightPt: size * scale });
  return [
    ...(style.underline ? [rule(metrics.underlineOffset, metrics.underlineSize)] : []),
    ...(style.strike ? [rule(metrics.strikeOffset, metrics.strikeSize)] : []),
  ];
}
