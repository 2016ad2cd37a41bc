/** Which words stand on which line of a picture: the breaks at which widths and heights of lines agree best, at one size and one tracking. */
import { valueAt } from '../base';
import type { LetterModel, ModelLetter } from './letter-model';
import { solve } from './solve';

/** The measures of a line in a picture. Pixels. */
export interface MeasuredLine {
  /** Between the outer edges of its ink. */
  width: number;
  /** The highest ink above its baseline. */
  up: number;
}

/** Letters of one line, and the measured line that they stand on. */
export interface LineOfWords {
  letters: readonly ModelLetter[];
  on: number;
}

export interface WordsOnLines {
  lines: readonly LineOfWords[];
  /** Pixels an em. */
  size: number;
  /** In ems. */
  tracking: number;
  /** How far widths and heights are off, 0 where nothing is. */
  cost: number;
}

/** Expected deviations of widths and of heights, as shares. */
const WIDTH_OFF = 0.006;
const HEIGHT_OFF = 0.04;
/** Greatest cost of a line, in units of those deviations: beyond it, the line is simply a wrong one. */
const MOST_COST = 60;
/** Trackings to try, in ems. */
const TRACKINGS = [-0.08, -0.05, -0.03, -0.015, 0, 0.015, 0.03, 0.05, 0.075, 0.1, 0.13, 0.17, 0.22, 0.28, 0.35, 0.45, 0.6];
/** Sizes to try, as shares of the size that the letters' height suggests. */
const SIZES = [0.82, 0.86, 0.9, 0.94, 0.97, 1, 1.03, 1.06, 1.1, 1.15, 1.2];
/** The cost of skipping a line of the picture: something between the lines that is none, or not of these words. */
const PASSED = 3;
/** So many are passed over in a row at most. */
const MOST_PASSED = 2;
/** Words that are tried on lines are no more than this. */
const MOST_STEPS = 4_000_000;

/** A stretch between two places where a line may end. */
interface Piece {
  letters: readonly ModelLetter[];
  /** Ems at no tracking, and ems an em of tracking, of its outer edges. */
  left: number;
  right: number;
  leftTracked: number;
  rightTracked: number;
  up: number;
  /** A line ends behind it in any case. */
  last: boolean;
}

/** @param places where lines may end: offsets in the words. */
function piecesOf({ paragraphs }: LetterModel, places: readonly number[]): Piece[] {
  return paragraphs.flatMap((letters) => {
    const byPiece = new Map<number, ModelLetter[]>();
    for (const letter of letters) {
      const piece = places.findIndex((place) => place > letter.at);
      const list = byPiece.get(piece);
      if (list) list.push(letter);
      else byPiece.set(piece, [letter]);
    }
    const ordered = [...byPiece].sort(([a], [b]) => a - b);
    return ordered.map(([, own], i): Piece => {
      const first = own.reduce((least, letter) => (letter.x + letter.left < least.x + least.left ? letter : least));
      const last = own.reduce((most, letter) => (letter.x + letter.right > most.x + most.right ? letter : most));
      return {
        letters: own,
        ...{ left: first.x + first.left, right: last.x + last.right, leftTracked: first.tracked, rightTracked: last.tracked },
        up: Math.max(...own.map(({ y, top }) => -(y + top))),
        last: i === ordered.length - 1,
      };
    });
  });
}

/**
 * The likeliest ways of the words to stand on consecutive lines.
 * @param lines of the picture, in reading order. @param places where lines of the words may end. @returns the best first.
 */
export function wordsOnLines(model: LetterModel, places: readonly number[], lines: readonly MeasuredLine[]): WordsOnLines[] {
  const pieces = piecesOf(model, places);
  if (pieces.length === 0 || lines.length === 0) return [];
  const tallest = Math.max(...pieces.map(({ up }) => up));
  const found = new Map<string, WordsOnLines>();
  const steps = lines.length * SIZES.length * TRACKINGS.length * pieces.length * 8;
  const every = Math.max(1, Math.ceil(steps / MOST_STEPS));
  let count = 0;
  for (let first = 0; first < lines.length; first++) {
    const most = Math.max(...lines.slice(first, first + pieces.length).map(({ up }) => up));
    for (const share of SIZES) {
      for (const tracking of TRACKINGS) {
        if (count++ % every !== 0) continue;
        const way = bestWay(pieces, lines, first, (most / Math.max(0.05, tallest)) * share, tracking);
        if (!way) continue;
        const key = way.stops.map(({ end, on }) => `${on}:${end}`).join(',');
        const known = found.get(key);
        if (!known || way.cost < known.cost) found.set(key, { lines: wordLinesOf(pieces, way.stops), size: way.size, tracking, cost: way.cost });
      }
    }
  }
  return [...found.values()]
    .sort((a, b) => a.cost - b.cost)
    .slice(0, 6)
    .map((way) => refined(way, lines))
    .sort((a, b) => a.cost - b.cost);
}

/** A line ends before the piece `end`; it stands on the measured line `on`. */
interface Stop {
  end: number;
  on: number;
}

interface Way {
  stops: readonly Stop[];
  size: number;
  cost: number;
}

/**
 * Dynamic programming over the pieces: every line begins where the last ended.
 * @param first the measured line that the first words stand on. @returns undefined where the words don't come to their end.
 */
function bestWay(pieces: readonly Piece[], lines: readonly MeasuredLine[], first: number, size: number, tracking: number): Way | undefined {
  let open = new Map<number, Way>([[0, { stops: [], size, cost: 0 }]]);
  let best: Way | undefined;
  for (let on = first; on < lines.length && open.size > 0; on++) {
    const line = lines[on];
    if (!line) break;
    const next = new Map<number, Way>();
    const reach = (end: number, way: Way): void => {
      const known = next.get(end);
      if (!known || way.cost < known.cost) next.set(end, way);
    };
    for (const [from, way] of open) {
      const start = pieces[from];
      if (!start) continue;
      const since = on - (way.stops[way.stops.length - 1]?.on ?? on) - 1;
      if (from > 0 && since < MOST_PASSED) reach(from, { ...way, cost: way.cost + PASSED });
      let up = 0;
      for (let to = from; to < pieces.length; to++) {
        const piece = pieces[to];
        if (!piece) break;
        up = Math.max(up, piece.up);
        const width = size * (piece.right - start.left + tracking * (piece.rightTracked - start.leftTracked));
        reach(to + 1, { stops: [...way.stops, { end: to + 1, on }], size, cost: way.cost + costOf(width, size * up, line) });
        if (piece.last || width > line.width * 1.25) break;
      }
    }
    const done = next.get(pieces.length);
    if (done) {
      const cost = done.cost / done.stops.length;
      if (!best || cost < best.cost) best = { ...done, cost };
      next.delete(pieces.length);
    }
    open = next;
  }
  return best;
}

const costOf = (width: number, up: number, line: MeasuredLine): number =>
  Math.min(MOST_COST, Math.abs(width / line.width - 1) / WIDTH_OFF + Math.abs(up / line.up - 1) / HEIGHT_OFF);

function wordLinesOf(pieces: readonly Piece[], stops: readonly Stop[]): LineOfWords[] {
  return stops.map(({ end, on }, i) => {
    const own = pieces.slice(i === 0 ? 0 : (stops[i - 1]?.end ?? 0), end);
    return { letters: own.flatMap(({ letters }) => letters).sort((a, b) => a.x - b.x), on };
  });
}

/** Outer edges of a line's ink in ems: at no tracking, and for an em of tracking. */
export function spanOf(letters: readonly ModelLetter[]): { left: number; width: number; tracked: number; up: number } {
  const first = letters.reduce((least, letter) => (letter.x + letter.left < least.x + least.left ? letter : least));
  const last = letters.reduce((most, letter) => (letter.x + letter.right > most.x + most.right ? letter : most));
  return {
    left: first.x + first.left,
    width: last.x + last.right - first.x - first.left,
    tracked: last.tracked - first.tracked,
    up: Math.max(...letters.map(({ y, top }) => -(y + top))),
  };
}

/** Size and tracking by least squares over widths and heights of the lines, the words being where they are. */
function refined(way: WordsOnLines, measured: readonly MeasuredLine[]): WordsOnLines {
  const matrix = new Float64Array(4);
  const right = new Float64Array(2);
  const add = (size: number, tracked: number, value: number, off: number): void => {
    const weight = 1 / off ** 2;
    matrix[0] = valueAt(matrix, 0) + weight * size * size;
    matrix[1] = valueAt(matrix, 1) + weight * size * tracked;
    matrix[2] = matrix[1];
    matrix[3] = valueAt(matrix, 3) + weight * tracked * tracked;
    right[0] = valueAt(right, 0) + weight * size * value;
    right[1] = valueAt(right, 1) + weight * tracked * value;
  };
  const spans = way.lines.map(({ letters }) => spanOf(letters));
  spans.forEach(({ width, tracked, up }, i) => {
    const line = measured[way.lines[i]?.on ?? -1];
    if (!line) return;
    add(width, tracked, line.width, line.width * WIDTH_OFF);
    add(up, 0, line.up, line.up * HEIGHT_OFF);
  });
  // Tracking that nothing tells of is none.
  matrix[3] = valueAt(matrix, 3) + 1e-6;
  const found = solve(matrix, right);
  const size = found?.[0] ?? way.size;
  const tracking = found ? valueAt(found, 1) / size : way.tracking;
  if (!(size > 0) || Math.abs(tracking) > 1) return way;
  const cost =
    spans.reduce((sum, { width, tracked, up }, i) => {
      const line = measured[way.lines[i]?.on ?? -1];
      return line ? sum + costOf(size * (width + tracking * tracked), size * up, line) : sum;
    }, 0) / Math.max(1, spans.length);
  return { ...way, size, tracking, cost };
}
