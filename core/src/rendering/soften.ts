/** Blurred shadows for pictures: worked out on the coverage alone, which is some ten times less work than the renderer's own filter. */
import { valueAt } from '../base';
import type { SvgOptions } from '../formats';
import { Resvg } from '@resvg/resvg-js';
import { writeMask } from './mask-png';

/** Blurs are worked out so coarsely that a deviation has this many steps: more can't be told apart. */
const STEPS_A_DEVIATION = 16;
/** Below this many steps a blur is summed with the curve itself, above with three boxes (Filter Effects 1, section 9.17). */
const BOXES_FROM = 2;

/** From this deviation on, in pixels, half a pixel to the side can't be told: then the picture is laid on without working out pixels in between. */
const SOFT_FROM = 2;

/**
 * Draws blurred shapes as pictures, for `writeSvg`.
 * @param pixelsPerPoint of the picture that is being made.
 */
export function softener(pixelsPerPoint: number): NonNullable<SvgOptions['soften']> {
  return (shape, room, deviationPt) => {
    const coarse = Math.max(1, Math.floor((deviationPt * pixelsPerPoint) / STEPS_A_DEVIATION));
    const perPoint = pixelsPerPoint / coarse;
    const width = Math.max(1, Math.round((room.rightPt - room.leftPt) * perPoint));
    const height = Math.max(1, Math.round((room.bottomPt - room.topPt) * perPoint));
    const view = `${room.leftPt} ${room.topPt} ${room.rightPt - room.leftPt} ${room.bottomPt - room.topPt}`;
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${view}" preserveAspectRatio="none">${shape}</svg>`;
    const { pixels } = new Resvg(svg, { font: { loadSystemFonts: false } }).render();
    const mask = new Uint8Array(width * height);
    for (let i = 0; i < mask.length; i++) mask[i] = pixels[i * 4 + 3] ?? 0;
    const soft = blur(mask, width, height, deviationPt * perPoint);
    const href = `data:image/png;base64,${writeMask(soft, width, height, colourOf(shape)).toString('base64')}`;
    return { href, rendering: deviationPt * pixelsPerPoint < SOFT_FROM ? 'auto' : 'optimizeSpeed' };
  };
}

/** The colour a shadow is filled with; it has one only. */
const colourOf = (shape: string): string => /fill="(#[0-9a-f]{6})"/i.exec(shape)?.[1] ?? '#000000';

/** Blurs coverage. @param deviation standard deviation, in pixels. @returns the blurred coverage; the given one is used up */
export function blur(mask: Uint8Array, width: number, height: number, deviation: number): Uint8Array {
  let [from, to]: [Uint8Array, Uint8Array] = [mask, new Uint8Array(mask.length)];
  const pass = (work: (from: Uint8Array, to: Uint8Array) => void): void => {
    work(from, to);
    [from, to] = [to, from];
  };
  if (deviation < BOXES_FROM) {
    const weights = curve(deviation);
    pass((a, b) => weighRows(a, b, width, height, weights));
    pass((a, b) => weighColumns(a, b, width, height, weights));
  } else {
    for (const box of boxes(deviation)) pass((a, b) => meanOfRows(a, b, width, height, box));
    for (const box of boxes(deviation)) pass((a, b) => meanOfColumns(a, b, width, height, box));
  }
  return from;
}

/** The Gaussian out to three deviations, its sum 1; as many weights before the middle as behind it. */
function curve(deviation: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * deviation));
  const weights = Float32Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-((i - reach) ** 2) / (2 * deviation ** 2)));
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return weights.map((weight) => weight / total);
}

/** A running mean over so many values before, and so many behind, each. */
interface Box1D {
  before: number;
  behind: number;
}

/** Three running means, of which the whole is as good as the Gaussian; sizes as in Filter Effects 1, section 9.17. */
function boxes(deviation: number): Box1D[] {
  const size = Math.max(1, Math.floor((deviation * 3 * Math.sqrt(2 * Math.PI)) / 4 + 0.5));
  const half = size >> 1;
  if (size % 2 === 1) return Array.from({ length: 3 }, () => ({ before: half, behind: half }));
  // An even size stands half a pixel off: once to the left, once to the right, and once one wider.
  return [
    { before: half, behind: half - 1 },
    { before: half - 1, behind: half },
    { before: half, behind: half },
  ];
}

// What lies outside is nothing. Rows are gone through one after the other even where columns are meant: memory is near then.

function meanOfRows(from: Uint8Array, to: Uint8Array, width: number, height: number, { before, behind }: Box1D): void {
  const share = 1 / (before + behind + 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(behind, width); x++) sum += valueAt(from, row + x);
    for (let x = 0; x < width; x++) {
      if (x + behind < width) sum += valueAt(from, row + x + behind);
      to[row + x] = sum * share + 0.5;
      if (x >= before) sum -= valueAt(from, row + x - before);
    }
  }
}

function meanOfColumns(from: Uint8Array, to: Uint8Array, width: number, height: number, { before, behind }: Box1D): void {
  const share = 1 / (before + behind + 1);
  const sums = new Int32Array(width);
  const add = (y: number, sign: number): void => {
    if (y < 0 || y >= height) return;
    const row = y * width;
    for (let x = 0; x < width; x++) sums[x] = valueAt(sums, x) + sign * valueAt(from, row + x);
  };
  for (let y = 0; y < behind; y++) add(y, 1);
  for (let y = 0; y < height; y++) {
    add(y + behind, 1);
    const row = y * width;
    for (let x = 0; x < width; x++) to[row + x] = valueAt(sums, x) * share + 0.5;
    add(y - before, -1);
  }
}

function weighRows(from: Uint8Array, to: Uint8Array, width: number, height: number, weights: Float32Array): void {
  const reach = weights.length >> 1;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      let sum = 0.5;
      for (let k = Math.max(0, reach - x), last = Math.min(2 * reach, width - 1 - x + reach); k <= last; k++)
        sum += valueAt(weights, k) * valueAt(from, row + x + k - reach);
      to[row + x] = sum;
    }
  }
}

function weighColumns(from: Uint8Array, to: Uint8Array, width: number, height: number, weights: Float32Array): void {
  const reach = weights.length >> 1;
  const sums = new Float32Array(width);
  for (let y = 0; y < height; y++) {
    sums.fill(0.5);
    for (let k = Math.max(0, reach - y), last = Math.min(2 * reach, height - 1 - y + reach); k <= last; k++) {
      const weight = valueAt(weights, k);
      const row = (y + k - reach) * width;
      for (let x = 0; x < width; x++) sums[x] = valueAt(sums, x) + weight * valueAt(from, row + x);
    }
    to.set(sums, y * width);
  }
}
