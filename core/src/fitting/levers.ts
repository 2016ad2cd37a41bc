/** The lever values that bring a line to a width: by one lever alone, and by several together, each within its limits. Lengths in points. */
import { LEVER_NAMES, type LeverName, type Levers } from '../job';

/** Values of levers: factors of size and width, and what is added to letter and word space, in 1/1000 em. */
export type LeverValues = Readonly<Record<LeverName, number>>;
/** Where nothing is changed. */
export const AT_REST: LeverValues = { size: 1, letters: 0, words: 0, width: 1 };

/** A line as levers see it: its width, and what 1/1000 em more of letter or word space adds to that. */
export interface LineToFit {
  widthPt: number;
  perLetterPt: number;
  perWordPt: number;
}

/** The width of a line with levers set; all of it grows with size and with the width of its letters. */
export const widthWith = ({ widthPt, perLetterPt, perWordPt }: LineToFit, { size, letters, words, width }: LeverValues): number =>
  size * width * (widthPt + perLetterPt * letters + perWordPt * words);

/** The value of a lever that works alone; undefined where it can't change the line. */
export interface Alone {
  value: number;
  /** The limit it would break. */
  beyond: 'least' | 'most' | undefined;
}

/** The value of each lever that works alone. */
export function alone(line: LineToFit, targetPt: number, levers: Levers): Readonly<Record<LeverName, Alone | undefined>> {
  const missing = targetPt - line.widthPt;
  const ask = (name: LeverName, value: number): Alone | undefined => {
    const { least, most } = levers[name];
    if (!Number.isFinite(value)) return undefined;
    return { value, beyond: value < least - TINY ? 'least' : value > most + TINY ? 'most' : undefined };
  };
  const factor = line.widthPt > 0 ? targetPt / line.widthPt : Number.NaN;
  return {
    size: ask('size', factor),
    letters: ask('letters', line.perLetterPt > 0 ? missing / line.perLetterPt : Number.NaN),
    words: ask('words', line.perWordPt > 0 ? missing / line.perWordPt : Number.NaN),
    width: ask('width', factor),
  };
}

/** Values nearer to a limit than this keep it. */
const TINY = 1e-9;
/** A lever with less of a share than this is left alone. */
const LEAST_SHARE = 0.001;
/** Halvings of the way from nothing to all limits: far below any unit. */
const HALVINGS = 80;

export interface Solved {
  values: LeverValues;
  /** The width still missing, in points; 0 where it is reached. */
  missingPt: number;
}

/**
 * Sets levers so that a line reaches a width. All go the same way, each as far as its share of what it would take alone; one that reaches
 * its limit stays there while the others go on.
 */
export function solveLevers(line: LineToFit, targetPt: number, levers: Levers): Solved {
  const each = alone(line, targetPt, levers);
  const used = LEVER_NAMES.flatMap((name) => {
    const asked = each[name];
    const { share, least, most } = levers[name];
    if (!asked || share < LEAST_SHARE) return [];
    const rate = share * (asked.value - AT_REST[name]);
    // A limit may forbid to rest: then the lever begins there.
    const limit = rate < 0 ? Math.min(least, AT_REST[name]) : Math.max(most, AT_REST[name]);
    return rate === 0 ? [] : [{ name, rate, limit }];
  });
  const at = (way: number): LeverValues => {
    const values: Record<LeverName, number> = { ...AT_REST };
    for (const { name, rate, limit } of used) {
      const value = AT_REST[name] + way * rate;
      values[name] = rate < 0 ? Math.max(limit, value) : Math.min(limit, value);
    }
    return values;
  };
  const open = targetPt > line.widthPt;
  const falls = (values: LeverValues): boolean => (open ? widthWith(line, values) < targetPt : widthWith(line, values) > targetPt);
  // Where one lever after the other reaches its limit: in between, all go evenly.
  const limits = used.map(({ name, rate, limit }) => (limit - AT_REST[name]) / rate).sort((a, b) => a - b);
  const most = at(limits[limits.length - 1] ?? 0);
  if (used.length === 0 || falls(most)) return { values: most, missingPt: targetPt - widthWith(line, most) };
  const past = limits.findIndex((way) => !falls(at(way)));
  let [low, high] = [limits[past - 1] ?? 0, limits[past] ?? 0];
  for (let i = 0; i < HALVINGS && high - low > 1e-15 * high; i++) {
    const middle = (low + high) / 2;
    if (falls(at(middle))) low = middle;
    else high = middle;
  }
  return { values: at(high), missingPt: 0 };
}
