/** How near proposals come to the designers: per font, then the mean over fonts. */
import type { Samples } from './data';
import { type Font, type SetName, SETS } from './families';

export interface Scores {
  /** Pearson r. */
  r: number;
  /** Mean absolute error in 1/1000 em, and that of proposing nothing. */
  error: number;
  none: number;
  /** Share of pairs kerned by 20 or more whose proposal has the other sign. */
  wrongSign: number;
}

/** @param truth the designer's kerning, in 1/1000 em. */
export function score(proposed: ArrayLike<number>, truth: ArrayLike<number>): Scores {
  const n = truth.length;
  let sumP = 0;
  let sumT = 0;
  for (let i = 0; i < n; i++) {
    sumP += proposed[i]!;
    sumT += truth[i]!;
  }
  let cross = 0;
  let squareP = 0;
  let squareT = 0;
  let error = 0;
  let none = 0;
  let large = 0;
  let wrong = 0;
  for (let i = 0; i < n; i++) {
    const p = proposed[i]! - sumP / n;
    const t = truth[i]! - sumT / n;
    cross += p * t;
    squareP += p * p;
    squareT += t * t;
    error += Math.abs(proposed[i]! - truth[i]!);
    none += Math.abs(truth[i]!);
    if (Math.abs(truth[i]!) >= 20) {
      large++;
      if (proposed[i]! * truth[i]! < 0) wrong++;
    }
  }
  return { r: cross / (Math.sqrt(squareP * squareT) || 1), error: error / n, none: none / n, wrongSign: wrong / Math.max(1, large) };
}

export type Board = Record<SetName, (Scores & { font: Font })[]>;
export const emptyBoard = (): Board => ({ UU: [], UL: [], LL: [], P: [], A: [], F: [], S: [] });

/** Enters what was proposed for a font's pairs. */
export function enter(board: Board, { set, font, truth }: Samples, proposed: ArrayLike<number>): void {
  board[set].push({ font, ...score(proposed, truth) });
}

const mean = (rows: readonly Scores[], key: keyof Scores): number => rows.reduce((sum, row) => sum + row[key], 0) / Math.max(1, rows.length);

/**
 * One row of the published table: r / error / ratio / wrong signs for every set.
 * @param among which fonts the means are over.
 */
export function boardRow(name: string, board: Board, among: (font: Font) => boolean = () => true): string[] {
  return [
    name,
    ...SETS.map((set) => {
      const rows = board[set].filter(({ font }) => among(font));
      if (rows.length === 0) return '–';
      return `${mean(rows, 'r').toFixed(3)} / ${mean(rows, 'error').toFixed(2)} / ${(mean(rows, 'error') / (mean(rows, 'none') || 1)).toFixed(2)} / ${(100 * mean(rows, 'wrongSign')).toFixed(1)} %`;
    }),
  ];
}
