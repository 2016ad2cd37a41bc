/** The angle lines of type run at: feet of letters stand on few levels where it is right. */
import { valueAt } from '../base';
import { type Marks, inkHeightOf, inkWidthOf } from './marks';
import type { Raster } from './raster';

/** Lines that run steeper are not looked for, in degrees. */
export const STEEPEST_DEG = 15;
const COARSE_DEG = 0.25;
const FINE_DEG = 0.02;
/** Places where ink ends downwards; more make no difference. */
const MOST_FEET = 40_000;

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/**
 * @param tall the height of letters in the picture, in pixels.
 * @returns degrees, clockwise.
 */
export function pictureAngle({ width, height }: Raster, { marks, of }: Marks, tall: number): number {
  // Specks have no feet, and neither have frames.
  const counts = marks.map((mark) => inkHeightOf(mark) >= tall * 0.3 && inkHeightOf(mark) < tall * 4 && inkWidthOf(mark) < width * 0.9);
  const xs: number[] = [];
  const ys: number[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const mark = valueAt(of, y * width + x);
      if (mark === 0 || !counts[mark - 1] || (y + 1 < height && of[(y + 1) * width + x] !== 0)) continue;
      xs.push(x + 0.5);
      ys.push(y + 1);
    }
  }
  if (xs.length < 2) return 0;
  const step = Math.max(1, Math.ceil(xs.length / MOST_FEET));
  const bin = Math.max(1, tall / 24);
  const reach = width * Math.sin(radians(STEEPEST_DEG)) + 2;
  const counted = new Float64Array(Math.ceil((height + 2 * reach) / bin) + 2);
  const score = (degrees: number): number => {
    counted.fill(0);
    const [sin, cos] = [Math.sin(radians(degrees)), Math.cos(radians(degrees))];
    for (let i = 0; i < xs.length; i += step) {
      // Shared between two levels, so that the sum is smooth in the angle.
      const at = ((ys[i] ?? 0) * cos - (xs[i] ?? 0) * sin + reach) / bin;
      const low = Math.floor(at);
      counted[low] = valueAt(counted, low) + 1 - (at - low);
      counted[low + 1] = valueAt(counted, low + 1) + at - low;
    }
    let sum = 0;
    for (const count of counted) sum += count * count;
    return sum;
  };
  const best = (from: number, to: number, by: number): number => {
    let [angle, most] = [0, -1];
    for (let degrees = from; degrees <= to + by / 2; degrees += by) {
      const found = score(degrees);
      if (found > most) [angle, most] = [degrees, found];
    }
    return angle;
  };
  const coarse = best(-STEEPEST_DEG, STEEPEST_DEG, COARSE_DEG);
  const fine = best(coarse - COARSE_DEG, coarse + COARSE_DEG, FINE_DEG * 2);
  const [before, at, behind] = [score(fine - FINE_DEG * 2), score(fine), score(fine + FINE_DEG * 2)];
  const bent = before - 2 * at + behind;
  return bent < 0 ? fine + Math.max(-1, Math.min(1, (before - behind) / (2 * bent))) * FINE_DEG * 2 : fine;
}

/** Turns a picture so that lines at an angle become level: around its middle, as large as it was, paper where nothing was. */
export function levelled({ width, height, values }: Raster, degrees: number): Raster {
  const turned = new Float32Array(width * height);
  const [sin, cos] = [Math.sin(radians(degrees)), Math.cos(radians(degrees))];
  for (let y = 0, i = 0; y < height; y++) {
    const fy = y + 0.5 - height / 2;
    for (let x = 0; x < width; x++, i++) {
      const fx = x + 0.5 - width / 2;
      const px = fx * cos - fy * sin + width / 2 - 0.5;
      const py = fx * sin + fy * cos + height / 2 - 0.5;
      const [x0, y0] = [Math.floor(px), Math.floor(py)];
      if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) continue;
      const [u, v] = [px - x0, py - y0];
      const k = y0 * width + x0;
      turned[i] =
        (valueAt(values, k) * (1 - u) + valueAt(values, k + 1) * u) * (1 - v) + (valueAt(values, k + width) * (1 - u) + valueAt(values, k + width + 1) * u) * v;
    }
  }
  return { width, height, values: turned };
}

/** A place in a levelled picture, in the one it was made from. */
export function unlevelled({ x, y }: { x: number; y: number }, { width, height }: Pick<Raster, 'width' | 'height'>, degrees: number): { x: number; y: number } {
  const [sin, cos] = [Math.sin(radians(degrees)), Math.cos(radians(degrees))];
  const [fx, fy] = [x - width / 2, y - height / 2];
  return { x: fx * cos - fy * sin + width / 2, y: fx * sin + fy * cos + height / 2 };
}
