/** Words against what lies behind them: contrast over real pixels, and colours taken from a picture. */
import { valueAt } from '../base';
import { type Rgb, formatHex, modeLrgb, modeRgb, parse, useMode, wcagContrast, wcagLuminance } from 'culori/fn';

// Only the modes that are used: the whole of culori knows thirty.
useMode(modeRgb);
useMode(modeLrgb);

/** Relative luminance of `#rrggbb` (WCAG 2.2), 0 to 1. */
export const luminance = (colour: string): number => wcagLuminance(colour);

/** WCAG contrast of two colours, 1 to 21. */
export const contrast = (one: string, other: string): number => wcagContrast(one, other);

const rgb = (r: number, g: number, b: number): Rgb => ({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255 });

/** `#rrggbb` of channels from 0 to 255. */
export const hexOf = (r: number, g: number, b: number): string => formatHex(rgb(r, g, b));

/** Contrast of a colour with many pixels. */
export interface GroundContrast {
  /** Over the tenth of the pixels it is worst against, and over all. WCAG contrast, 1 to 21. */
  worst: number;
  mean: number;
}

/**
 * Contrast of words with the pixels behind them. Transparent pixels, beyond the sheet, are left out.
 * @param colours what the words are painted with: one, or both ends of a gradient; the worse counts.
 * @param pixels RGBA, 0 to 255 each. @param opacity of the words, 0 to 1: what shines through is part of what is seen.
 * @returns undefined without pixels.
 */
export function contrastOver(colours: readonly string[], pixels: ArrayLike<number>, opacity = 1): GroundContrast | undefined {
  const values: number[] = [];
  const paints = colours.flatMap((colour) => parse(colour) ?? []).filter((colour) => colour.mode === 'rgb');
  for (let i = 0; i + 3 < pixels.length; i += 4) {
    if (valueAt(pixels, i + 3) < 128) continue;
    const behind = rgb(valueAt(pixels, i), valueAt(pixels, i + 1), valueAt(pixels, i + 2));
    const mixed = (key: 'r' | 'g' | 'b', paint: Rgb): number => behind[key] + (paint[key] - behind[key]) * opacity;
    const seen = paints.map((paint) => wcagContrast({ mode: 'rgb', r: mixed('r', paint), g: mixed('g', paint), b: mixed('b', paint) }, behind));
    values.push(Math.min(...seen));
  }
  if (values.length === 0) return undefined;
  values.sort((a, b) => a - b);
  const tenth = values.slice(0, Math.max(1, Math.floor(values.length / 10)));
  const mean = (list: readonly number[]): number => list.reduce((sum, value) => sum + value, 0) / list.length;
  return { worst: mean(tenth), mean: mean(values) };
}

/** Letters are bold from this weight on (OpenType `usWeightClass`). */
const BOLD = 700;

/**
 * The contrast that text of a size needs (WCAG 2.2, 1.4.3): 3 from 18 pt, or 14 pt bold; 4.5 below.
 * @param weight 1 to 1000, as in OpenType `usWeightClass`.
 */
export const contrastNeeded = (sizePt: number, weight: number): number => (sizePt >= 18 || (weight >= BOLD && sizePt >= 14) ? 3 : 4.5);

/**
 * The colours a picture is made of, most common first: pixels gathered in cells of colour, cells near a found one left out.
 * @param pixels RGBA. @param most how many are wanted.
 */
export function coloursOf(pixels: ArrayLike<number>, most: number): string[] {
  const cells = new Map<number, { count: number; r: number; g: number; b: number }>();
  for (let i = 0; i + 3 < pixels.length; i += 4) {
    const [r = 0, g = 0, b = 0] = [pixels[i], pixels[i + 1], pixels[i + 2]];
    const key = ((r >> 5) << 6) | ((g >> 5) << 3) | (b >> 5);
    const cell = cells.get(key) ?? { count: 0, r: 0, g: 0, b: 0 };
    cell.count++;
    cell.r += r;
    cell.g += g;
    cell.b += b;
    cells.set(key, cell);
  }
  const found: { r: number; g: number; b: number }[] = [];
  for (const { count, r, g, b } of [...cells.values()].sort((x, y) => y.count - x.count)) {
    const mean = { r: r / count, g: g / count, b: b / count };
    if (found.every((one) => Math.hypot(one.r - mean.r, one.g - mean.g, one.b - mean.b) > 40)) found.push(mean);
    if (found.length === most) break;
  }
  return found.map((one) => hexOf(one.r, one.g, one.b));
}

/** A ground that is darker than letters by more than this luminance is a dark one. */
const DARKER = 0.1;

/** True for light letters on dark ground, which want a little more room. @param letters and @param ground colours, `#rrggbb`. */
export const isLightOnDark = (letters: string, ground: string): boolean => luminance(letters) > luminance(ground) + DARKER;
