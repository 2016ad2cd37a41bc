/** One segment of an outline, coordinates in font units, y up. `Z` closes the contour and has no values. */
export interface PathCommand {
  type: 'M' | 'L' | 'Q' | 'C' | 'Z';
  values: number[];
}

/** A glyph's outline; empty for glyphs without ink, such as the space. */
export type Outline = readonly PathCommand[];

/** A box in font units, y up. */
export interface Bounds {
  xMin: number;
  yMin: number;
  xMax: number;
  yMax: number;
}

/**
 * The box around all points of an outline, control points included (never smaller than the ink).
 * @returns undefined for an outline without points.
 */
export function controlBounds(outline: Outline): Bounds | undefined {
  let bounds: Bounds | undefined;
  for (const { values } of outline) {
    for (let i = 0; i + 1 < values.length; i += 2) {
      const x = values[i] ?? 0;
      const y = values[i + 1] ?? 0;
      if (!bounds) bounds = { xMin: x, yMin: y, xMax: x, yMax: y };
      else {
        bounds.xMin = Math.min(bounds.xMin, x);
        bounds.xMax = Math.max(bounds.xMax, x);
        bounds.yMin = Math.min(bounds.yMin, y);
        bounds.yMax = Math.max(bounds.yMax, y);
      }
    }
  }
  return bounds;
}

/** The printed fraction of a number, for every remainder of so many decimals: ``, `.5`, `.0625` … */
const fractions = new Map<number, readonly string[]>();

function fractionsOf(digits: number): readonly string[] {
  let known = fractions.get(digits);
  if (!known) {
    known = Array.from({ length: 10 ** digits }, (_, i) => (i === 0 ? '' : `.${String(i).padStart(digits, '0').replace(/0+$/, '')}`));
    fractions.set(digits, known);
  }
  return known;
}

/** Rounds to `digits` decimals and prints without trailing zeros, and without an exponent: those have no place in the files that numbers go to. */
export function printNumber(value: number, digits: number): string {
  // Outlines in font units are whole numbers.
  if (value === (value | 0)) return String(value | 0);
  if (digits <= 4 && value > -1e9 && value < 1e9) {
    // Outlines are hundreds of thousands of numbers: a look into a table is several times faster than printing fractions.
    const unit = 10 ** digits;
    const whole = Math.round(value * unit);
    const size = Math.abs(whole);
    const remainder = size % unit;
    const text = String((size - remainder) / unit) + (fractionsOf(digits)[remainder] ?? '');
    return whole < 0 ? `-${text}` : text;
  }
  if (Number.isInteger(value) && Math.abs(value) < 1e15) return String(value);
  const unit = 10 ** digits;
  const rounded = Math.round(value * unit) / unit;
  return Math.abs(rounded) < 1e15 ? String(rounded) : value.toFixed(0);
}

/** An affine map as SVG writes it: (x, y) goes to (ax + cy + e, bx + dy + f). */
export interface PathMatrix {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}

/** Font units as they are, turned to y down. */
export const FONT_UNITS: PathMatrix = { a: 1, b: 0, c: 0, d: -1, e: 0, f: 0 };

/**
 * SVG path data (SVG 2, section 9.3) of an outline.
 * @param matrix from font units, y up, to the output's.
 * @param digits decimals kept.
 */
export function pathData(outline: Outline, { a, b, c, d, e, f }: PathMatrix = FONT_UNITS, digits = 4): string {
  let data = '';
  for (const { type, values } of outline) {
    data += type;
    for (let i = 0; i + 1 < values.length; i += 2) {
      const x = values[i] ?? 0;
      const y = values[i + 1] ?? 0;
      const px = c === 0 ? e + x * a : e + x * a + y * c;
      const py = b === 0 ? f + y * d : f + x * b + y * d;
      data += `${i > 0 ? ' ' : ''}${printNumber(px, digits)},${printNumber(py, digits)}`;
    }
  }
  return data;
}
