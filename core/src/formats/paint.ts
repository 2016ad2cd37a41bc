/** How letters are painted: one description that the page and the files draw from, so that both look the same. */
import type { Frame, Style } from '../job';
import type { Reach } from '../setting';
import { milliemToPoints } from '../units';
import { gradientLine } from './background';

/** Outlines thinner and blurs smaller than this, in points, can't be seen at any scale that is handed over. */
const LEAST = 0.01;

export interface RunPaint {
  /** A colour, or the gradient's address. */
  fill: string;
  opacity: number;
  gradient?: { id: string; x1: number; y1: number; x2: number; y2: number; from: string; to: string };
  stroke?: { colour: string; widthPt: number; join: 'miter' | 'round' | 'bevel' };
  /** Offset to the right and downwards, and the standard deviation of its blur, in points. */
  shadow?: { id: string; xPt: number; yPt: number; deviationPt: number; colour: string };
}

/**
 * How far from a place its ink can be to show there: by an outline's width on every side, and by where a shadow falls, blur
 * included.
 */
export function reachOf({ stroke, shadow }: RunPaint): Reach {
  // A mitred corner sticks out by at most the limit of SVG, 4, times half the width.
  const edge = stroke ? 2 * stroke.widthPt : 0;
  const far = edge + (shadow ? 3 * shadow.deviationPt : 0);
  const [x, y] = [shadow?.xPt ?? 0, shadow?.yPt ?? 0];
  // A shadow that falls to the right shows on the sheet for letters left of it.
  return { leftPt: Math.max(edge, far + x), topPt: Math.max(edge, far + y), rightPt: Math.max(edge, far - x), bottomPt: Math.max(edge, far - y) };
}

/**
 * The paint of a run.
 * @param frame the block's frame: a gradient runs over all of it. @param id unlike that of any other run on the sheet.
 */
export function paintOf(style: Style, frame: Frame, id: string): RunPaint {
  const paint: RunPaint = { fill: style.colour, opacity: style.opacity };
  if (style.gradient) {
    const line = gradientLine(frame.widthPt, frame.heightPt, style.gradient.angleDeg);
    paint.gradient = {
      id: `fill-${id}`,
      x1: frame.xPt + line.x1,
      y1: frame.yPt + line.y1,
      x2: frame.xPt + line.x2,
      y2: frame.yPt + line.y2,
      from: style.colour,
      to: style.gradient.to,
    };
    paint.fill = `url(#fill-${id})`;
  }
  const outlinePt = style.outline ? milliemToPoints(style.outline.milliem, style.sizePt) : 0;
  if (style.outline && outlinePt >= LEAST) paint.stroke = { colour: style.outline.colour, widthPt: outlinePt, join: style.outline.join };
  if (style.shadow) {
    const { xMilliem, yMilliem, blurMilliem, colour } = style.shadow;
    // A CSS blur radius is twice the standard deviation (CSS Backgrounds 3, section 4.6.1).
    const deviationPt = milliemToPoints(blurMilliem, style.sizePt) / 2;
    paint.shadow = {
      id: `blur-${id}`,
      xPt: milliemToPoints(xMilliem, style.sizePt),
      yPt: milliemToPoints(yMilliem, style.sizePt),
      deviationPt: deviationPt >= LEAST ? deviationPt : 0,
      colour,
    };
  }
  return paint;
}
