/** Outlines as straight pieces. */
import type { Outline } from './outline';

/** Most segments of one glyph that are looked at: a hostile font may have any number. */
const MOST_SEGMENTS = 20_000;

/** Into how many pieces a curve goes: always as many, or by where it begins and its control points. */
export type PiecesOf = number | ((from: readonly [number, number], values: readonly number[]) => number);

/**
 * Walks an outline as straight pieces, each contour closed.
 * @param pieces how many a curve becomes.
 * @param line called for every piece with its ends, in font units.
 */
export function flatten(outline: Outline, pieces: PiecesOf, line: (x0: number, y0: number, x1: number, y1: number) => void): void {
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const to = (nx: number, ny: number): void => {
    line(x, y, nx, ny);
    x = nx;
    y = ny;
  };
  const count = Math.min(outline.length, MOST_SEGMENTS);
  for (let s = 0; s < count; s++) {
    const segment = outline[s];
    if (!segment) continue;
    const { type, values } = segment;
    const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = values;
    if (type === 'M') [x, y, startX, startY] = [a, b, a, b];
    else if (type === 'L') to(a, b);
    else if (type === 'Z') to(startX, startY);
    else {
      const [x0, y0] = [x, y];
      const steps = typeof pieces === 'number' ? pieces : pieces([x0, y0], values);
      for (let i = 1; i <= steps; i++) {
        const t = i / steps;
        const u = 1 - t;
        if (type === 'Q') to(u * u * x0 + 2 * u * t * a + t * t * c, u * u * y0 + 2 * u * t * b + t * t * d);
        else {
          const [p, q, r, s3] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
          to(p * x0 + q * a + r * c + s3 * e, p * y0 + q * b + r * d + s3 * f);
        }
      }
    }
  }
}
