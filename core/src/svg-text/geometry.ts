/** Where an SVG's text lies on the sheet (SVG 2, section 8). */
import { compose, fromDefinition, fromTransformAttribute, identity, type Matrix, scale, translate } from 'transformation-matrix';
import { toPoints } from '../units';
import { cssLength } from './css';
import type { SvgElement } from './document';
import { SvgError } from './document';

/** The sheet an SVG makes, and how its user units lie on it. */
export interface Canvas {
  widthPt: number;
  heightPt: number;
  /** From user units to points. */
  matrix: Matrix;
  /** The base of percentages, in user units. */
  viewport: { width: number; height: number };
}

/** Usual size of a drawing that states none (CSS 2.2, section 10.3.2), in pixels. */
const USUAL = { width: 300, height: 150 };
const MOST_PT = 20_000;

/** @throws SvgError for a size that is none */
export function canvasOf({ attributes }: SvgElement): Canvas {
  const box = (attributes['viewBox'] ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [left = 0, top = 0, across = 0, down = 0] = box.length === 4 && box.every(Number.isFinite) ? box : [];
  const stated = (name: 'width' | 'height'): number | undefined => (attributes[name]?.endsWith('%') ? undefined : cssLength(attributes[name], 16, 0));
  // Of one that is not stated the drawing's proportions tell (CSS 2.2, section 10.3.2).
  const [wide, high] = [stated('width'), stated('height')];
  const ratio = across > 0 && down > 0 ? across / down : undefined;
  const width = wide ?? (high !== undefined && ratio !== undefined ? high * ratio : across || USUAL.width);
  const height = high ?? (wide !== undefined && ratio !== undefined ? wide / ratio : down || USUAL.height);
  const [widthPt, heightPt] = [toPoints(width, 'px'), toPoints(height, 'px')];
  if (!(widthPt >= 1 && heightPt >= 1 && widthPt <= MOST_PT && heightPt <= MOST_PT)) {
    throw new SvgError(`The drawing is ${width} × ${height} pixels; sheets are from 2 to ${Math.floor((MOST_PT * 4) / 3)}.`);
  }
  const pt = toPoints(1, 'px');
  if (!(across > 0 && down > 0)) return { widthPt, heightPt, matrix: scale(pt), viewport: { width, height } };
  const aspect = attributes['preserveAspectRatio'] ?? '';
  const [byWidth, byHeight] = [width / across, height / down];
  const both = aspect.includes('slice') ? Math.max(byWidth, byHeight) : Math.min(byWidth, byHeight);
  const [kx, ky] = aspect.includes('none') ? [byWidth, byHeight] : [both, both];
  const free = (pattern: RegExp, far: RegExp, room: number): number => (pattern.test(aspect) ? 0 : far.test(aspect) ? room : room / 2);
  const x = free(/xMin/, /xMax/, width - across * kx);
  const y = free(/YMin/, /YMax/, height - down * ky);
  return { widthPt, heightPt, matrix: compose(scale(pt), translate(x, y), scale(kx, ky), translate(-left, -top)), viewport: { width: across, height: down } };
}

/** From an element's user units to those of the root; undefined where a transform can't be read. */
export function matrixTo(element: SvgElement): Matrix | undefined {
  let matrix = identity();
  for (let at: SvgElement | undefined = element; at; at = at.parent) {
    // What lies in another drawing or pattern is placed by that.
    if (at.parent && ['svg', 'symbol', 'pattern', 'marker', 'clipPath', 'mask', 'defs'].includes(at.name)) return undefined;
    const text = at.attributes['transform'];
    if (text === undefined || text.trim() === '' || text.trim() === 'none') continue;
    try {
      matrix = compose(compose(fromDefinition(fromTransformAttribute(text))), matrix);
    } catch {
      return undefined;
    }
  }
  return matrix;
}

/** A map as scales along and across, and a turn; undefined for one that leans or mirrors. */
export interface Placement {
  alongPt: number;
  acrossPt: number;
  degrees: number;
  matrix: Matrix;
}

export function placementOf(matrix: Matrix): Placement | undefined {
  const { a, b, c, d } = matrix;
  const [along, across] = [Math.hypot(a, b), Math.hypot(c, d)];
  const leans = Math.abs(a * c + b * d) > 1e-6 * along * across;
  if (!(along > 1e-9 && across > 1e-9) || leans || a * d - b * c < 0) return undefined;
  return { alongPt: along, acrossPt: across, degrees: (Math.atan2(b, a) * 180) / Math.PI, matrix };
}
