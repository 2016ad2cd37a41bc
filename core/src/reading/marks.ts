/** Marks: stretches of ink that hang together, such as letters, dots and, in joined scripts, words. */
import { valueAt } from '../base';
import type { Raster } from './raster';

/** A mark with the box around its pixels; `right` and `bottom` are one past the last. */
export interface Mark {
  left: number;
  top: number;
  right: number;
  bottom: number;
  /** Pixels. */
  area: number;
}

export const inkHeightOf = ({ top, bottom }: Pick<Mark, 'top' | 'bottom'>): number => bottom - top;
export const inkWidthOf = ({ left, right }: Pick<Mark, 'left' | 'right'>): number => right - left;

export interface Marks {
  marks: Mark[];
  /** For every pixel the number of its mark from 1, or 0. */
  of: Int32Array;
}

/** More than this is no type but texture. */
export const MOST_MARKS = 60_000;

/**
 * The marks of a picture: pixels of which at least half is ink, joined over edges and corners (runs of rows, joined by union and find).
 * @returns undefined where there are more than any page has.
 */
export function inkMarksOf({ width, height, values }: Raster): Marks | undefined {
  const starts: number[] = [];
  const ends: number[] = [];
  const rows: number[] = [0];
  const parent: number[] = [];
  const root = (run: number): number => {
    let at = run;
    while (parent[at] !== at) {
      const up = parent[at] ?? at;
      parent[at] = parent[up] ?? up;
      at = up;
    }
    return at;
  };
  for (let y = 0; y < height; y++) {
    const base = y * width;
    let above = rows[y - 1] ?? 0;
    const first = rows[y] ?? 0;
    for (let x = 0; x < width; x++) {
      if (valueAt(values, base + x) < 0.5) continue;
      const start = x;
      while (x < width && valueAt(values, base + x) >= 0.5) x++;
      const run = starts.length;
      starts.push(start);
      ends.push(x);
      parent.push(run);
      while (above < first && (ends[above] ?? 0) < start) above++;
      for (let k = above; k < first && (starts[k] ?? 0) <= x; k++) {
        const [a, b] = [root(k), root(run)];
        if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
      }
    }
    rows.push(starts.length);
    if (starts.length > MOST_MARKS * 20) return undefined;
  }
  const numbers = new Map<number, number>();
  const marks: Mark[] = [];
  const of = new Int32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let run = rows[y] ?? 0; run < (rows[y + 1] ?? 0); run++) {
      const top = root(run);
      const [start, end] = [starts[run] ?? 0, ends[run] ?? 0];
      let number = numbers.get(top);
      if (number === undefined) {
        if (marks.length >= MOST_MARKS) return undefined;
        marks.push({ left: start, top: y, right: end, bottom: y, area: 0 });
        number = marks.length;
        numbers.set(top, number);
      }
      const mark = marks[number - 1];
      if (!mark) continue;
      mark.left = Math.min(mark.left, start);
      mark.right = Math.max(mark.right, end);
      mark.bottom = y + 1;
      mark.area += end - start;
      of.fill(number, y * width + start, y * width + end);
    }
  }
  return { marks, of };
}
