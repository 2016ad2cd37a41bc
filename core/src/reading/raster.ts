/** Pictures as one value a pixel. A pixel in column `x` and row `y` covers `x` to `x + 1` and `y` to `y + 1`; y grows downwards. */
import { valueAt } from '../base';

/** Values row by row. */
export interface Raster<Values extends Uint8Array | Float32Array = Float32Array> {
  readonly width: number;
  readonly height: number;
  readonly values: Values;
}

/** A picture in grey, 0 black to 255 white. */
export type Grey = Raster<Uint8Array>;

/** Pixels that a picture may have at most when it is read: larger ones are made smaller before. */
export const MOST_READ_PIXELS = 24_000_000;

/**
 * Grey out of colours, on white where they are transparent: luma of Rec. 709, as stored, since edges are blended in stored values.
 * @param rgba four bytes a pixel. @throws RangeError where there are not as many as the size says.
 */
export function greyOf(rgba: Uint8Array | Uint8ClampedArray, width: number, height: number): Grey {
  if (width < 1 || height < 1 || rgba.length !== width * height * 4) throw new RangeError('A picture has four bytes for each of its pixels.');
  const values = new Uint8Array(width * height);
  for (let i = 0, k = 0; i < values.length; i++, k += 4) {
    const luma = 0.2126 * valueAt(rgba, k) + 0.7152 * valueAt(rgba, k + 1) + 0.0722 * valueAt(rgba, k + 2);
    const alpha = valueAt(rgba, k + 3) / 255;
    values[i] = Math.round(255 + (luma - 255) * alpha);
  }
  return { width, height, values };
}

/** Half as large: each value the mean of four. A last odd row or column is left out. */
export function halved({ width, height, values }: Raster): Raster {
  const [w, h] = [width >> 1, height >> 1];
  const half = new Float32Array(w * h);
  for (let y = 0, i = 0; y < h; y++) {
    for (let x = 0, k = 2 * y * width; x < w; x++, i++, k += 2) {
      half[i] = (valueAt(values, k) + valueAt(values, k + 1) + valueAt(values, k + width) + valueAt(values, k + width + 1)) / 4;
    }
  }
  return { width: w, height: h, values: half };
}

/** The mean of three by three, for noise; edges keep what they have. */
export function smoothed({ width, height, values }: Raster): Raster {
  const rows = Float32Array.from(values);
  for (let y = 0; y < height; y++) {
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) rows[i] = (valueAt(values, i - 1) + valueAt(values, i) + valueAt(values, i + 1)) / 3;
  }
  const smooth = Float32Array.from(rows);
  for (let i = width; i < width * (height - 1); i++) smooth[i] = (valueAt(rows, i - width) + valueAt(rows, i) + valueAt(rows, i + width)) / 3;
  return { width, height, values: smooth };
}
