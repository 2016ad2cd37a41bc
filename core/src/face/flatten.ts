/** Outlines as straight pieces. */
import type { Outline } from './outline';

/** Most segments of one glyph that are looked at: a hostile font may have any number. */
const MOST_SEGMENTS = 20_000;

/** Into how many pieces a curve goes: always as many, or by where it begins and its control points. */
export type PiecesOf = number | ((x: number, y: number, values: readonly number[]) => number);

/**
 * Walks an outline as straight pieces, each contour closed.
 * @param pieces how many a curve becomes.
 * @param line called for every piece with its ends, in font units.
 */
export function flatten(outline: Outline, pieces: PiecesOf, line: (x0: number, y0: number, x1: number, y1: number) => void): void {
  // Written out, since every measure of white goes through here.
  let x = 0;
  let y = 0;
  let startX = 0;
  let startY = 0;
  const count = Math.min(outline.length, MOST_SEGMENTS);
  for (let s = 0; s < count; s++) {
    const segment = outline[s];
    if (!segment) continue;
    const { type, values } = segment;
    if (type === 'Z') {
      line(x, y, startX, startY);
      x = startX;
      y = startY;
      continue;
    }
    const endX = values[values.length - 2] ?? 0;
    const endY = values[values.length - 1] ?? 0;
    if (type === 'M') {
      startX = endX;
      startY = endY;
    } else if (type === 'L') {
      line(x, y, endX, endY);
    } else {
      const cubic = type === 'C';
      const x1 = values[0] ?? 0;
      const y1 = values[1] ?? 0;
      const x2 = cubic ? (values[2] ?? 0) : 0;
      const y2 = cubic ? (values[3] ?? 0) : 0;
      const steps = typeof pieces === 'number' ? pieces : pieces(x, y, values);
      let fromX = x;
      let fromY = y;
      for (let i = 1; i <= steps; i++) {
        const t = i / steps;
        const u = 1 - t;
        const toX = cubic ? u * u * u * x + 3 * u * u * t * x1 + 3 * u * t * t * x2 + t * t * t * endX : u * u * x + 2 * u * t * x1 + t * t * endX;
        const toY = cubic ? u * u * u * y + 3 * u * u * t * y1 + 3 * u * t * t * y2 + t * t * t * endY : u * u * y + 2 * u * t * y1 + t * t * endY;
        line(fromX, fromY, toX, toY);
        fromX = toX;
        fromY = toY;
      }
    }
    x = endX;
    y = endY;
  }
}
