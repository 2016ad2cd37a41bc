/** Lines of type among the marks of a levelled picture: where they begin and end, stand, and how high their letters are. */
import { valueAt } from '../base';
import { type Mark, inkHeightOf, inkWidthOf } from './marks';
import type { Raster } from './raster';

/** A line in a levelled picture, in its pixels. */
export interface LevelLine {
  left: number;
  right: number;
  /** Of all its ink. */
  top: number;
  bottom: number;
  baseline: number;
  /** Lower case without ascenders above the baseline; undefined where all letters are as high as each other. */
  xHeight: number | undefined;
  /** Capitals and ascenders above the baseline, or all letters where they are as high as each other. */
  capHeight: number;
  /** Marks as high as letters. */
  letters: number;
  /** Feet of letters that stand on the baseline: where, and how far down. */
  feet: readonly { x: number; y: number }[];
  /** The share of the letters that stand on the baseline, or reach below it as descenders do, and are as high as others. */
  agree: number;
}

/** Letters side by side are at most this much higher than each other. */
const TALLER = 2.3;
/** They overlap by this share of the lower one. */
const BESIDE = 0.5;
/** They are apart by at most this many times the higher one. */
const REACH = 1.6;
/** Feet and tops at one level, as a share of the letters' height. */
const LEVEL = 0.09;

/** The lines in the order they are read in: from the top, and from the left where they stand beside each other. */
export function inkLinesOf(raster: Raster, marks: readonly Mark[]): LevelLine[] {
  const letters = marks
    .filter((mark) => inkHeightOf(mark) >= 4 && mark.area >= 6 && inkHeightOf(mark) < raster.height * 0.9 && inkWidthOf(mark) < raster.width * 0.95)
    .sort((a, b) => a.left - b.left);
  const groups = grouped(letters);
  const lines = withoutParts(groups.flatMap((group) => lineOf(raster, group) ?? []));
  withSmall(lines, marks);
  return lines.sort((a, b) => (overlap(a, b) > 0.5 * Math.min(inkHeightOf(a), inkHeightOf(b)) ? a.left - b.left : a.baseline - b.baseline));
}

const overlap = (a: Pick<Mark, 'top' | 'bottom'>, b: Pick<Mark, 'top' | 'bottom'>): number => Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);

/** Dots and accents are no lines of their own where they stand among higher letters. */
const withoutParts = (lines: readonly LevelLine[]): LevelLine[] =>
  lines.filter(
    (line) =>
      !lines.some((other) => {
        const tall = inkHeightOf(other);
        const beside = line.right > other.left - tall * 0.3 && line.left < other.right + tall * 0.3;
        return inkHeightOf(line) < tall * 0.45 && beside && line.bottom > other.top - tall * 0.35 && line.top < other.bottom;
      }),
  );

/** Marks that stand side by side, chained. @param letters sorted by their left edges. */
function grouped(letters: readonly Mark[]): Mark[][] {
  const parent = letters.map((_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) at = parent[at] ?? at;
    parent[i] = at;
    return at;
  };
  // By bands of rows, so that a page of specks is not compared all with all.
  const bands = new Map<number, number[]>();
  const BAND = 32;
  letters.forEach((letter, i) => {
    const height = inkHeightOf(letter);
    let nearest = 0;
    const near = new Set<number>();
    for (let band = Math.floor(letter.top / BAND); band <= Math.floor(letter.bottom / BAND); band++)
      for (const k of (bands.get(band) ?? []).slice(-60)) near.add(k);
    for (const k of [...near].sort((a, b) => b - a)) {
      const other = letters[k];
      if (!other || nearest >= 6) break;
      const taller = Math.max(height, inkHeightOf(other));
      if (taller > TALLER * Math.min(height, inkHeightOf(other))) continue;
      if (overlap(letter, other) < BESIDE * Math.min(height, inkHeightOf(other)) || letter.left - other.right > REACH * taller) continue;
      nearest++;
      const [a, b] = [root(i), root(k)];
      if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
    }
    for (let band = Math.floor(letter.top / BAND); band <= Math.floor(letter.bottom / BAND); band++) {
      const list = bands.get(band);
      if (list) list.push(i);
      else bands.set(band, [i]);
    }
  });
  const groups = new Map<number, Mark[]>();
  letters.forEach((letter, i) => {
    const group = groups.get(root(i));
    if (group) group.push(letter);
    else groups.set(root(i), [letter]);
  });
  return [...groups.values()];
}

/** Where most of the values stand, by weight, within a reach: the mean of those. */
function mode(values: readonly { at: number; weight: number }[], reach: number): { at: number; weight: number } {
  const sorted = [...values].sort((a, b) => a.at - b.at);
  let best = { from: 0, to: 0, weight: -1 };
  let weight = 0;
  for (let from = 0, to = 0; from < sorted.length; from++) {
    while (to < sorted.length && (sorted[to]?.at ?? 0) - (sorted[from]?.at ?? 0) <= reach) weight += sorted[to++]?.weight ?? 0;
    if (weight > best.weight) best = { from, to, weight };
    weight -= sorted[from]?.weight ?? 0;
  }
  const within = sorted.slice(best.from, best.to);
  return { at: within.reduce((sum, one) => sum + one.at * one.weight, 0) / Math.max(1e-9, best.weight), weight: best.weight };
}

function lineOf(raster: Raster, group: readonly Mark[]): LevelLine | undefined {
  const heights = group.map(inkHeightOf).sort((a, b) => a - b);
  const usual = heights[heights.length >> 1] ?? 0;
  // What is much higher are letters of two lines that touch, or no letters.
  const letters = group.filter((mark) => inkHeightOf(mark) <= 2.6 * usual);
  if (letters.length === 0) return undefined;
  const edges = letters.map((mark) => ({ mark, weight: inkWidthOf(mark), top: edgeOf(raster, mark, -1), foot: edgeOf(raster, mark, 1) }));
  const baseline = mode(
    edges.map(({ foot, weight }) => ({ at: foot, weight })),
    LEVEL * usual,
  ).at;
  // Tops count where something stands on the baseline or hangs below it.
  const standing = edges.filter(({ foot }) => foot > baseline - LEVEL * 1.5 * usual);
  if (standing.length === 0) return undefined;
  const tops = standing.map(({ top, weight }) => ({ at: baseline - top, weight })).filter(({ at }) => at > 0);
  if (tops.length === 0) return undefined;
  const first = mode(tops, LEVEL * usual);
  const total = tops.reduce((sum, { weight }) => sum + weight, 0);
  const others = tops.filter(({ at }) => at > first.at * 1.17 || at < first.at * 0.86);
  const second = others.length > 0 ? mode(others, LEVEL * usual) : undefined;
  let xHeight: number | undefined;
  let capHeight = first.at;
  if (second && second.at > first.at && second.weight > total * 0.04) [xHeight, capHeight] = [first.at, second.at];
  else if (second && second.at < first.at && second.at > first.at * 0.5 && second.weight > total * 0.12) [xHeight, capHeight] = [second.at, first.at];
  const levels = xHeight === undefined ? [capHeight] : [xHeight, capHeight];
  const agreeing = edges.filter(({ foot, top }) => {
    const onLine = Math.abs(foot - baseline) <= LEVEL * usual || (foot > baseline && foot < baseline + 0.55 * capHeight);
    return onLine && levels.some((level) => Math.abs(baseline - top - level) <= LEVEL * usual * 1.3);
  });
  return {
    left: Math.min(...letters.map(({ left }) => left)),
    right: Math.max(...letters.map(({ right }) => right)),
    top: Math.min(...letters.map(({ top }) => top)),
    bottom: Math.max(...letters.map(({ bottom }) => bottom)),
    baseline,
    xHeight,
    capHeight,
    letters: letters.length,
    feet: edges.filter(({ foot }) => Math.abs(foot - baseline) <= LEVEL * usual).map(({ mark, foot }) => ({ x: (mark.left + mark.right) / 2, y: foot })),
    agree: agreeing.length / letters.length,
  };
}

/** By how many degrees lines still lean, clockwise: the slope through their feet by least squares. */
export function lineLean(lines: readonly LevelLine[]): number {
  let [above, below] = [0, 0];
  for (const { feet } of lines) {
    const [x, y] = [meanOf(feet.map((foot) => foot.x)), meanOf(feet.map((foot) => foot.y))];
    for (const foot of feet) {
      above += (foot.x - x) * (foot.y - y);
      below += (foot.x - x) ** 2;
    }
  }
  return below > 0 ? (Math.atan(above / below) * 180) / Math.PI : 0;
}

const meanOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);

/** Where the ink of a mark ends upwards (-1) or downwards (1), between pixels: where half of it is left, over the columns in which it reaches farthest. */
function edgeOf({ width, height, values }: Raster, { left, top, right, bottom }: Mark, way: -1 | 1): number {
  const row = way < 0 ? top : bottom - 1;
  let sum = 0;
  let count = 0;
  for (let x = left; x < right; x++) {
    const inside = valueAt(values, row * width + x);
    if (inside < 0.5) continue;
    const beyond = row + way < 0 || row + way >= height ? 0 : valueAt(values, (row + way) * width + x);
    sum += (inside - 0.5) / Math.max(0.05, inside - beyond);
    count++;
  }
  const reach = count > 0 ? Math.min(1, sum / count) : 0.5;
  return row + 0.5 + way * reach;
}

/** Dots, hyphens and points belong to the line they stand in. */
function withSmall(lines: LevelLine[], marks: readonly Mark[]): void {
  for (const line of lines) {
    const tall = line.capHeight;
    for (const mark of marks) {
      if (mark.area < 4 || inkHeightOf(mark) > tall * 1.2 || inkHeightOf(mark) < tall * 0.04) continue;
      const middle = (mark.top + mark.bottom) / 2;
      if (middle < line.baseline - tall * 1.1 || middle > line.baseline + tall * 0.25) continue;
      if (mark.right < line.left - tall * 0.7 || mark.left > line.right + tall * 0.7) continue;
      line.left = Math.min(line.left, mark.left);
      line.right = Math.max(line.right, mark.right);
    }
  }
}
