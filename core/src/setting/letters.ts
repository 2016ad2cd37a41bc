/** The letters of a set line as places: where a click falls, where carets and selections stand. */
import type { WordRange } from '../job';
import type { BlockSetting, SetLine } from './block-setting';
import { type Box, joinedBoxes } from './box';
import { type Matrix, applyToPoint, inverse, isUpright, mappedBox } from './matrix';

/** A letter of a line; a ligature counts as one. */
export interface SetLetter extends WordRange {
  /** Where the room it takes of the line begins and ends, in points from the sheet's left, before its shift. */
  leftPt: number;
  rightPt: number;
  /** Moves, turns or scales it from there; absent where it stays. */
  shift?: Matrix;
  sizePt: number;
}

/** How much of a type size counts as the letter or the line, above and below the baseline, and beside a line. */
const REACH_UP = 0.95;
const REACH_DOWN = 0.35;
const SLACK = 0.4;

/** The letters of a line from left to right. */
export function setLettersOf({ runs, leftPt, widthPt, visibleEnd }: Pick<SetLine, 'runs' | 'leftPt' | 'widthPt' | 'visibleEnd'>): SetLetter[] {
  const letters: SetLetter[] = [];
  for (const { glyphs, style, start, end } of runs) {
    if (start === end) continue;
    for (const { cluster, xPt, offsetPt, shift } of glyphs) {
      const last = letters[letters.length - 1];
      if (last?.start === cluster) continue;
      const left = xPt - offsetPt;
      if (last) last.rightPt = left;
      const letter: SetLetter = { start: cluster, end: visibleEnd, leftPt: left, rightPt: leftPt + widthPt, sizePt: style.sizePt };
      if (shift) letter.shift = shift;
      letters.push(letter);
    }
  }
  // In the order of the words, each letter ends where the next begins.
  const ordered = [...letters].sort((a, b) => a.start - b.start);
  ordered.forEach((letter, i) => (letter.end = ordered[i + 1]?.start ?? visibleEnd));
  return letters;
}

/** A place on a line, as if none of its letters were shifted. */
export interface PlaceOnLine {
  line: SetLine;
  xPt: number;
}

/**
 * The line of a block under a point, the block not turned: the one with a letter there, each where its shift has taken it, else the one
 * that runs there.
 */
export function lineUnder({ lines, straight }: Pick<BlockSetting, 'lines' | 'straight'>, { xPt, yPt }: { xPt: number; yPt: number }): PlaceOnLine | undefined {
  for (const line of lines) {
    if (!line.runs.some(({ glyphs }) => glyphs[0]?.shift)) continue;
    for (const letter of setLettersOf(line)) {
      const { x, y } = letter.shift ? applyToPoint(inverse(letter.shift), { x: xPt, y: yPt }) : { x: xPt, y: yPt };
      if (x >= letter.leftPt && x < letter.rightPt && within(line.baselinePt, letter.sizePt, y)) return { line, xPt: x };
    }
  }
  // On a path, lines run where their letters stand.
  if (straight) return undefined;
  const line = lines.find(({ baselinePt, sizePt, leftPt, widthPt }) => {
    const slack = sizePt * SLACK;
    return within(baselinePt, sizePt, yPt) && xPt >= leftPt - slack && xPt <= leftPt + widthPt + slack;
  });
  return line && { line, xPt };
}

/** The box around the room of all letters of lines, where their shifts have taken them; undefined around none. */
export const letterRoomOf = (lines: readonly SetLine[]): Box | undefined =>
  joinedBoxes(
    lines.flatMap((line) =>
      setLettersOf(line).map(({ leftPt, rightPt, sizePt, shift }) => {
        const box = { leftPt, rightPt, topPt: line.baselinePt - sizePt * REACH_UP, bottomPt: line.baselinePt + sizePt * REACH_DOWN };
        return shift ? mappedBox(shift, box) : box;
      }),
    ),
  );

const within = (baselinePt: number, sizePt: number, y: number): boolean => y >= baselinePt - sizePt * REACH_UP && y <= baselinePt + sizePt * REACH_DOWN;

/** Neighbouring letters that are shifted alike, as one stretch of their line. */
export interface LetterStretch {
  leftPt: number;
  rightPt: number;
  shift: Matrix | undefined;
}

/** The letters of a line that stand for a range of the words, as stretches from left to right. */
export function stretchesOf(line: SetLine, { start, end }: WordRange): LetterStretch[] {
  const stretches: LetterStretch[] = [];
  for (const letter of setLettersOf(line)) {
    if (letter.end <= start || letter.start >= end) continue;
    const last = stretches[stretches.length - 1];
    if (last && last.shift === letter.shift && Math.abs(last.rightPt - letter.leftPt) < 1e-6) last.rightPt = letter.rightPt;
    else stretches.push({ leftPt: letter.leftPt, rightPt: letter.rightPt, shift: letter.shift });
  }
  return stretches;
}

/** The baselines of a line: its own, and those that letters are raised or lowered to without being turned. In points, each once. */
export function baselinesOf({ runs, baselinePt }: Pick<SetLine, 'runs' | 'baselinePt'>): number[] {
  const found = new Set([baselinePt]);
  for (const { glyphs } of runs) {
    for (const { shift } of glyphs) if (shift && isUpright(shift)) found.add(shift.d * baselinePt + shift.f);
  }
  return [...found];
}
