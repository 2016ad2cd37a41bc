/** The box around an outline: its curves' own extremes, whatever control points and font headers say. */
import type { Bounds, Outline } from './outline';

/** The box in the outline's units; undefined for one without extent. */
export function extremesOf(outline: Outline): Bounds | undefined {
  let [xMin, xMax, yMin, yMax] = [Infinity, -Infinity, Infinity, -Infinity];
  const reach = (x: number, y: number): void => {
    if (x < xMin) xMin = x;
    if (x > xMax) xMax = x;
    if (y < yMin) yMin = y;
    if (y > yMax) yMax = y;
  };
  let [fromX, fromY] = [0, 0];
  let [startX, startY] = [0, 0];
  // A place to start from alone has no ink.
  let drawn = false;
  for (const { type, values } of outline) {
    if (type === 'Z') {
      [fromX, fromY] = [startX, startY];
      continue;
    }
    const [x = 0, y = 0] = values.slice(-2);
    if (type === 'M') {
      [startX, startY] = [x, y];
      drawn = false;
    } else {
      if (!drawn) reach(fromX, fromY);
      drawn = true;
      reach(x, y);
      if (type !== 'L') {
        const xs = [fromX, ...values.filter((_, i) => i % 2 === 0)];
        const ys = [fromY, ...values.filter((_, i) => i % 2 === 1)];
        for (const t of turns(type, xs)) reach(at(type, t, xs), y);
        for (const t of turns(type, ys)) reach(x, at(type, t, ys));
      }
    }
    [fromX, fromY] = [x, y];
  }
  return xMax > xMin && yMax > yMin ? { xMin, xMax, yMin, yMax } : undefined;
}

/** Where a curve turns back in one coordinate: the zeros of its derivative (Bézier form) strictly inside it. */
function turns(type: string, [a = 0, b = 0, c = 0, d = 0]: readonly number[]): number[] {
  const inside = (t: number): boolean => t > 0 && t < 1;
  if (type === 'Q') {
    const bend = a - 2 * b + c;
    return bend === 0 ? [] : [(a - b) / bend].filter(inside);
  }
  if (type !== 'C') return [];
  // d/dt = 3 (p t² + 2 q t + r)
  const [p, q, r] = [d - 3 * c + 3 * b - a, c - 2 * b + a, b - a];
  if (Math.abs(p) < 1e-9) return q === 0 ? [] : [-r / (2 * q)].filter(inside);
  const under = q * q - p * r;
  if (under < 0) return [];
  // The sum that loses no digits, and the other zero by their product.
  const whole = -(q + (q < 0 ? -1 : 1) * Math.sqrt(under));
  return [whole / p, ...(whole === 0 ? [] : [r / whole])].filter(inside);
}

function at(type: string, t: number, [a = 0, b = 0, c = 0, d = 0]: readonly number[]): number {
  const s = 1 - t;
  return type === 'Q' ? s * s * a + 2 * s * t * b + t * t * c : s ** 3 * a + 3 * s * s * t * b + 3 * s * t * t * c + t ** 3 * d;
}
