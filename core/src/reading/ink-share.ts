/**
 * How much of each pixel is ink, 0 to 1, whatever the light: the pixels of a picture of type are near one of two smooth surfaces, that of
 * the paper and that of the ink. Both are found together, as in clustering by regression (Späth 1979): each pixel belongs to the nearer
 * surface, each surface is fitted to its pixels by least squares, and so on until none changes sides.
 */
import { valueAt } from '../base';
import { medianOf } from './median';
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

/** Pixels that surfaces are fitted to: at least, one in so many of a large picture, and at most. A page may hold a single line. */
const [LEAST_SAMPLES, ONE_IN, MOST_SAMPLES] = [24_000, 60, 120_000];
/** Pixels farther off than this many usual deviations are no noise, and than this many levels no artefact. */
const [NO_NOISE, NO_ARTEFACT] = [6, 10];
/** Terms of a surface: light falls off as a polynomial of the second degree; ink is nearly as black everywhere, so that the first is enough. */
const PAPER_TERMS = 6;
const INK_TERMS = 3;
const INK_STIFF = 0.02;
const ROUNDS = 30;
/** Fewer samples of ink than this say little of it; more pixels that stand out than this are no word. */
const [FEW, MOST_OUT] = [400, 12_000];
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

/**
 * The surface through samples by least squares.
 * @param stiff how much it resists to lean: what is said in one corner only says nothing of the others.
 */
function through(samples: readonly Sample[], terms: number, stiff = 1e-4): Surface {
  const matrix = new Float64Array(terms * terms);
  const right = new Float64Array(terms);
  const row = new Float64Array(PAPER_TERMS);
  for (const { x, y, value } of samples) {
    row.set([1, x, y, x * x, x * y, y * y]);
    for (let i = 0; i < terms; i++) {
      right[i] = valueAt(right, i) + valueAt(row, i) * value;
      for (let k = 0; k < terms; k++) matrix[i * terms + k] = valueAt(matrix, i * terms + k) + valueAt(row, i) * valueAt(row, k);
    }
  }
  for (let i = 1; i < terms; i++) matrix[i * terms + i] = valueAt(matrix, i * terms + i) + samples.length * stiff + 1e-9;
  const surface = new Float64Array(PAPER_TERMS);
  surface.set(solve(matrix, right) ?? [0]);
  return surface;
}

function samplesOf({ width, height, values }: Grey): Sample[] {
  const wanted = Math.min(MOST_SAMPLES, Math.max(LEAST_SAMPLES, (width * height) / ONE_IN));
  const step = Math.max(1, Math.sqrt((width * height) / wanted));
  const samples: Sample[] = [];
  for (let fy = step / 2, row = 0; fy < height; fy += step, row++) {
    // Rows are staggered, so that regular patterns are not met at one phase only.
    for (let fx = step * (0.25 + 0.5 * ((row * 0.618) % 1)); fx < width; fx += step) {
      const [x, y] = [Math.floor(fx), Math.floor(fy)];
      samples.push({ x: (2 * (x + 0.5)) / width - 1, y: (2 * (y + 0.5)) / height - 1, value: valueAt(values, y * width + x) });
    }
  }
  return samples;
}

/**
 * Which samples are light, to begin with: where little stands out from the rest, that against the rest; else what is lighter than the
 * surface through all. From the latter alone, the ink of a few words on a large page would be lost in the noise of its paper.
 */
function firstSides(samples: readonly Sample[], whole: Surface): boolean[] {
  const { off, middle, reach } = spreadOf(samples, whole);
  const far = off.map((one) => Math.abs(one - middle) > reach);
  const [above, below] = [1, -1].map((sign) => far.filter((one, i) => one && Math.sign((off[i] ?? 0) - middle) === sign).length) as [number, number];
  if (Math.max(above, below) < 12) return off.map((one) => one > 0);
  const inkIsLight = above > below;
  return far.map((one, i) => (one && (off[i] ?? 0) > middle === inkIsLight) === inkIsLight);
}

/** How far samples are off a surface, what the middle one is, and how far from that nothing is chance. */
function spreadOf(samples: readonly Sample[], surface: Surface): { off: number[]; middle: number; reach: number } {
  const off = samples.map(({ x, y, value }) => value - level(surface, x, y));
  const middle = medianOf(off);
  const usual = 1.4826 * medianOf(off.map((one) => Math.abs(one - middle)));
  return { off, middle, reach: Math.max(NO_NOISE * usual, NO_ARTEFACT) };
}

/** Where hardly any sample stands out, the pixels between them that do: a word on a large page. */
function standingOut({ width, height, values }: Grey, grid: readonly Sample[], whole: Surface): Sample[] {
  const { off, middle, reach } = spreadOf(grid, whole);
  if (grid.length >= width * height * 0.9 || off.filter((one) => Math.abs(one - middle) > reach).length >= FEW) return [];
  const found: Sample[] = [];
  for (let row = 0, i = 0; row < height; row++) {
    const y = (2 * (row + 0.5)) / height - 1;
    for (let column = 0; column < width; column++, i++) {
      const x = (2 * (column + 0.5)) / width - 1;
      const value = valueAt(values, i);
      if (Math.abs(value - level(whole, x, y) - middle) > reach) found.push({ x, y, value });
    }
    if (found.length > MOST_OUT) return [];
  }
  return found;
}

/** @returns undefined where the picture does not consist of two levels that can be told apart. */
export function inkShareOf(grey: Grey): InkShare | undefined {
  const { width, height, values } = grey;
  const grid = samplesOf(grey);
  const whole = through(grid, INK_TERMS);
  const samples = [...grid, ...standingOut(grey, grid, whole)];
  let sides = firstSides(samples, whole);
  let light = whole;
  let dark = whole;
  let lights: Sample[] = [];
  let darks: Sample[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    lights = samples.filter((_, i) => sides[i]);
    darks = samples.filter((_, i) => !sides[i]);
    if (lights.length < 12 || darks.length < 12) return undefined;
    const more = lights.length >= darks.length;
    light = more ? through(lights, PAPER_TERMS) : through(lights, INK_TERMS, INK_STIFF);
    dark = more ? through(darks, INK_TERMS, INK_STIFF) : through(darks, PAPER_TERMS);
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
      share[i] = Math.abs(depth) < contrast / 4 ? 0 : Math.max(-0.5, Math.min(1.5, (valueAt(values, i) - base) / depth));
    }
  }
  return { width, height, values: share, reversed, contrast, spread };
}
