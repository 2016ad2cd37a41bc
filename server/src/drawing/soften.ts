/** Blurred shadows for pictures: worked out on the coverage alone, which is some ten times less work than the renderer's own filter. */
import type { Box } from '@jentrix/core/setting';
import { Resvg } from '@resvg/resvg-js';
import { writeMask } from './mask-png';

/** Blurs are worked out so coarsely that a deviation has this many steps: more can't be told apart. */
const STEPS_A_DEVIATION = 16;
/** Below this many steps a blur is summed with the curve itself, above with three boxes (Filter Effects 1, section 9.17). */
const BOXES_FROM = 2;

/**
 * Draws blurred shapes as pictures, for `writeSvg`.
 * @param pixelsPerPoint of the picture that is being made.
 */
export function softener(pixelsPerPoint: number): (shape: string, room: Box, deviationPt: number) => string {
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
    blur(mask, width, height, deviationPt * perPoint);
    return `data:image/png;base64,${writeMask(mask, width, height, colourOf(shape)).toString('base64')}`;
  };
}

/** The colour a shadow is filled with; it has one only. */
const colourOf = (shape: string): string => /fill="(#[0-9a-f]{6})"/i.exec(shape)?.[1] ?? '#000000';

/** Blurs coverage in place. @param deviation standard deviation, in pixels. */
export function blur(mask: Uint8Array, width: number, height: number, deviation: number): void {
  const line = new Float32Array(Math.max(width, height));
  const other = new Float32Array(line.length);
  const pass = deviation < BOXES_FROM ? curve(deviation) : boxes(deviation);
  for (let y = 0; y < height; y++) along(mask, y * width, 1, width, line, other, pass);
  for (let x = 0; x < width; x++) along(mask, x, width, height, line, other, pass);
}

type Pass = (from: Float32Array, to: Float32Array, count: number) => void;

function along(mask: Uint8Array, start: number, step: number, count: number, line: Float32Array, other: Float32Array, pass: Pass): void {
  let inked = false;
  for (let i = 0, at = start; i < count; i++, at += step) {
    const value = mask[at] ?? 0;
    line[i] = value;
    inked ||= value > 0;
  }
  if (!inked) return;
  pass(line, other, count);
  for (let i = 0, at = start; i < count; i++, at += step) mask[at] = Math.min(255, Math.round(line[i] ?? 0));
}

/** Sums with the Gaussian itself, out to three deviations. */
function curve(deviation: number): Pass {
  const reach = Math.max(1, Math.ceil(3 * deviation));
  const weights = Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-((i - reach) ** 2) / (2 * deviation ** 2)));
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return (line, other, count) => {
    for (let i = 0; i < count; i++) {
      let sum = 0;
      for (let k = Math.max(0, reach - i), last = Math.min(2 * reach, count - 1 - i + reach); k <= last; k++)
        sum += (weights[k] ?? 0) * (line[i + k - reach] ?? 0);
      other[i] = sum / total;
    }
    line.set(other.subarray(0, count));
  };
}

/** Three running means, of which the whole is as good as the Gaussian; the size is that of Filter Effects 1. */
function boxes(deviation: number): Pass {
  const size = Math.max(1, Math.floor((deviation * 3 * Math.sqrt(2 * Math.PI)) / 4 + 0.5));
  const half = size >> 1;
  // An even size stands half a pixel off: once to the left, once to the right, and once one wider.
  const means: readonly (readonly [number, number])[] =
    size % 2 === 1
      ? [
          [half, half],
          [half, half],
          [half, half],
        ]
      : [
          [half, half - 1],
          [half - 1, half],
          [half, half],
        ];
  return (line, other, count) => {
    let [from, to] = [line, other];
    for (const [before, behind] of means) {
      mean(from, to, count, before, behind);
      [from, to] = [to, from];
    }
    if (from !== line) line.set(from.subarray(0, count));
  };
}

/** The mean of every value with its neighbours; outside is nothing. */
function mean(from: Float32Array, to: Float32Array, count: number, before: number, behind: number): void {
  const size = before + behind + 1;
  let sum = 0;
  for (let i = 0; i < Math.min(behind, count); i++) sum += from[i] ?? 0;
  for (let i = 0; i < count; i++) {
    if (i + behind < count) sum += from[i + behind] ?? 0;
    to[i] = sum / size;
    if (i - before >= 0) sum -= from[i - before] ?? 0;
  }
}
