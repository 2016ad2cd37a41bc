/** Outlines as coverage: which share of each pixel lies inside, exactly, by signed areas under their pieces. */
import { valueAt } from '../base';

/** A rectangle of pixels with its coverage, the first pixel at (`x`, `y`) of the picture. */
export interface Tile {
  x: number;
  y: number;
  width: number;
  height: number;
  values: Float32Array;
}

/** Where a letter's own coordinates go in the picture: turned, scaled and moved. */
export interface Placing {
  /** Pixels an em, times the cosine and the sine of the turn. */
  cos: number;
  sin: number;
  x: number;
  y: number;
}

/**
 * The coverage of a letter.
 * @param pieces x0, y0, x1, y1 each; contours are closed. @param margin pixels around it that stay empty.
 * @returns undefined where it would be unreasonably large.
 */
export function coverageOf(pieces: Float64Array, { cos, sin, x, y }: Placing, margin: number): Tile | undefined {
  const points = new Float64Array(pieces.length);
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i + 1 < pieces.length; i += 2) {
    const [u, v] = [valueAt(pieces, i), valueAt(pieces, i + 1)];
    const px = x + u * cos - v * sin;
    const py = y + u * sin + v * cos;
    points[i] = px;
    points[i + 1] = py;
    if (px < left) left = px;
    if (px > right) right = px;
    if (py < top) top = py;
    if (py > bottom) bottom = py;
  }
  const x0 = Math.floor(left) - margin;
  const y0 = Math.floor(top) - margin;
  const width = Math.ceil(right) + margin - x0 + 1;
  const height = Math.ceil(bottom) + margin - y0;
  if (!(width > 0 && height > 0 && width * height < 4_000_000)) return undefined;
  // Each cell holds by how much the coverage of its row changes there; a running sum gives the coverage.
  const values = new Float32Array(width * height);
  for (let i = 0; i + 3 < points.length; i += 4)
    add(values, width, valueAt(points, i) - x0, valueAt(points, i + 1) - y0, valueAt(points, i + 2) - x0, valueAt(points, i + 3) - y0);
  for (let row = 0; row < height; row++) {
    let sum = 0;
    for (let k = row * width, end = k + width; k < end; k++) {
      sum += valueAt(values, k);
      values[k] = Math.min(1, Math.abs(sum));
    }
  }
  return { x: x0, y: y0, width, height, values };
}

function add(values: Float32Array, width: number, x0: number, y0: number, x1: number, y1: number): void {
  if (y0 === y1) return;
  const sign = y0 < y1 ? 1 : -1;
  const [topX, topY, bottomX, bottomY] = y0 < y1 ? [x0, y0, x1, y1] : [x1, y1, x0, y0];
  const slope = (bottomX - topX) / (bottomY - topY);
  let x = topX;
  for (let row = Math.floor(topY), last = Math.ceil(bottomY); row < last; row++) {
    const high = Math.min(row + 1, bottomY) - Math.max(row, topY);
    const nextX = x + slope * high;
    const [from, to] = x < nextX ? [x, nextX] : [nextX, x];
    const area = sign * high;
    const first = Math.floor(from);
    const lastX = Math.ceil(to);
    const k = row * width + first;
    if (lastX <= first + 1) {
      // Within one pixel: to the right of the middle of the piece lies ink.
      const part = 1 - ((from + to) / 2 - first);
      values[k] = valueAt(values, k) + area * part;
      values[k + 1] = valueAt(values, k + 1) + area * (1 - part);
    } else {
      const per = 1 / (to - from);
      const inFirst = 0.5 * per * (1 - (from - first)) ** 2;
      values[k] = valueAt(values, k) + area * inFirst;
      let done = inFirst;
      for (let column = first + 1; column < lastX - 1; column++) {
        const share = column === first + 1 ? per * (1 - (from - first) + 0.5) - inFirst : per;
        values[row * width + column] = valueAt(values, row * width + column) + area * share;
        done += share;
      }
      // Up to here the sum is the coverage of the last column but one; the rest of the area stands in the last and behind it.
      const inLast = 0.5 * per * (to - (lastX - 1)) ** 2;
      values[row * width + lastX - 1] = valueAt(values, row * width + lastX - 1) + area * (1 - done - inLast);
      values[row * width + lastX] = valueAt(values, row * width + lastX) + area * inLast;
    }
    x = nextX;
  }
}

/** Blurs a tile in place; what lies around it is empty. @param sigma standard deviation in pixels. */
export function blurTile({ width, height, values }: Tile, sigma: number): void {
  if (sigma < 0.2) return;
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const weights = Float64Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)));
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const line = new Float64Array(Math.max(width, height) + 2 * reach);
  const along = (start: number, step: number, count: number): void => {
    line.fill(0);
    for (let i = 0; i < count; i++) line[reach + i] = valueAt(values, start + i * step);
    for (let i = 0; i < count; i++) {
      let sum = 0;
      for (let k = 0; k <= 2 * reach; k++) sum += valueAt(weights, k) * valueAt(line, i + k);
      values[start + i * step] = sum / total;
    }
  };
  for (let row = 0; row < height; row++) along(row * width, 1, width);
  for (let column = 0; column < width; column++) along(column, width, height);
}

/** Spreads the ink of a blurred tile in place. @param by pixels, less than one; negative draws it in. */
export function spreadTile({ width, height, values }: Tile, by: number): void {
  if (by === 0) return;
  const from = Float32Array.from(values);
  for (let row = 1; row < height - 1; row++) {
    for (let k = row * width + 1, end = k + width - 2; k < end; k++) {
      const gx = (valueAt(from, k + 1) - valueAt(from, k - 1)) / 2;
      const gy = (valueAt(from, k + width) - valueAt(from, k - width)) / 2;
      values[k] = Math.max(0, Math.min(1, valueAt(from, k) + by * Math.sqrt(gx * gx + gy * gy)));
    }
  }
}
