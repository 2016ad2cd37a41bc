/**
 * How much of each pixel is ink, 0 to 1, whatever the light: the pixels of a picture of type are near one of two smooth surfaces, that of
 * the paper and that of the ink. Both are found together, as in clustering by regression (Späth 1979): each pixel belongs to the nearer
 * surface, each surface is fitted to its pixels by least squares, and so on until none changes sides.
 */
import type { Grey, Raster } from './raster';
import { solve } from './solve';

export interface InkShare extends Raster {
  /** Light letters on dark paper. */
  reversed: boolean;
  /** Between paper and ink, in levels of 255. */
  contrast: number;
  /** Spread of a pixel's share around its surface: noise, and edges. */
  spread: number;
}

/** Pixels that surfaces are fitted to. */
const SAMPLES = 24_000;
/** Terms of a surface: light falls off as a polynomial of the second degree; ink is nearly as black everywhere, so that the first is enough. */
const PAPER_TERMS = 6;
const INK_TERMS = 3;
const ROUNDS = 30;
/** Less contrast than this is no type that anybody could read, in levels. */
const LEAST_CONTRAST = 12;
/** Two surfaces through one cloud of noise are this many of its remaining spreads apart: uniform noise 3.5, normal noise 2.7. */
const APART = 3.7;

type Surface = Float64Array;

/** A sample with its place from -1 to 1 in both directions. */
interface Sample {
  x: number;
  y: number;
  value: number;
}

const level = (surface: Surface, x: number, y: number): number =>
  (surface[0] ?? 0) + (surface[1] ?? 0) * x + (surface[2] ?? 0) * y + (surface[3] ?? 0) * x * x + (surface[4] ?? 0) * x * y + (surface[5] ?? 0) * y * y;

/** The surface through samples by least squares. */
function through(samples: readonly Sample[], terms: number): Surface {
  const matrix = new Float64Array(terms * terms);
  const right = new Float64Array(terms);
  const row = new Float64Array(PAPER_TERMS);
  for (const { x, y, value } of samples) {
    row.set([1, x, y, x * x, x * y, y * y]);
    for (let i = 0; i < terms; i++) {
      right[i] = (right[i] ?? 0) + (row[i] ?? 0) * value;
      for (let k = 0; k < terms; k++) matrix[i * terms + k] = (matrix[i * terms + k] ?? 0) + (row[i] ?? 0) * (row[k] ?? 0);
    }
  }
  // So little that it moves nothing, but a surface through samples of one place exists.
  for (let i = 1; i < terms; i++) matrix[i * terms + i] = (matrix[i * terms + i] ?? 0) + samples.length * 1e-4 + 1e-9;
  const surface = new Float64Array(PAPER_TERMS);
  surface.set(solve(matrix, right) ?? [0]);
  return surface;
}

function samplesOf({ width, height, values }: Grey): Sample[] {
  const step = Math.max(1, Math.sqrt((width * height) / SAMPLES));
  const samples: Sample[] = [];
  for (let fy = step / 2, row = 0; fy < height; fy += step, row++) {
    // Rows are staggered, so that regular patterns are not met at one phase only.
    for (let fx = step * (0.25 + 0.5 * ((row * 0.618) % 1)); fx < width; fx += step) {
      const [x, y] = [Math.floor(fx), Math.floor(fy)];
      samples.push({ x: (2 * (x + 0.5)) / width - 1, y: (2 * (y + 0.5)) / height - 1, value: values[y * width + x] ?? 0 });
    }
  }
  return samples;
}

/** @returns undefined where the picture does not consist of two levels that can be told apart. */
export function inkShareOf(grey: Grey): InkShare | undefined {
  const { width, height, values } = grey;
  const samples = samplesOf(grey);
  const whole = through(samples, INK_TERMS);
  let sides = samples.map(({ x, y, value }) => value > level(whole, x, y));
  let light = whole;
  let dark = whole;
  let lights: Sample[] = [];
  let darks: Sample[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    lights = samples.filter((_, i) => sides[i]);
    darks = samples.filter((_, i) => !sides[i]);
    if (lights.length < 12 || darks.length < 12) return undefined;
    const more = lights.length >= darks.length;
    light = through(lights, more ? PAPER_TERMS : INK_TERMS);
    dark = through(darks, more ? INK_TERMS : PAPER_TERMS);
    const next = samples.map(({ x, y, value }) => Math.abs(value - level(light, x, y)) < Math.abs(value - level(dark, x, y)));
    if (next.every((side, i) => side === sides[i])) break;
    sides = next;
  }
  const reversed = darks.length > lights.length;
  const [paper, ink] = reversed ? [dark, light] : [light, dark];
  let apart = 0;
  let off = 0;
  for (const [i, { x, y, value }] of samples.entries()) {
    apart += Math.abs(level(light, x, y) - level(dark, x, y));
    off += (value - level(sides[i] ? light : dark, x, y)) ** 2;
  }
  const contrast = apart / samples.length;
  const spread = Math.sqrt(off / samples.length) / Math.max(1e-9, contrast);
  if (contrast < LEAST_CONTRAST || spread > 1 / APART) return undefined;

  const share = new Float32Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    const fy = (2 * (y + 0.5)) / height - 1;
    for (let x = 0; x < width; x++, i++) {
      const fx = (2 * (x + 0.5)) / width - 1;
      const base = level(paper, fx, fy);
      const depth = level(ink, fx, fy) - base;
      // Where the surfaces would meet there is no ink to tell from paper.
      share[i] = Math.abs(depth) < contrast / 4 ? 0 : Math.max(-0.5, Math.min(1.5, ((values[i] ?? 0) - base) / depth));
    }
  }
  return { width, height, values: share, reversed, contrast, spread };
}
