import type { WordRange } from '@jentrix/core/job';
import { type Matrix, type SetLine, gapsOf, setLettersOf, stretchesOf } from '@jentrix/core/setting';

/** Where the caret before a code unit stands on a line, in points. */
export function linePlaceOf(line: SetLine, at: number): number {
  if (at <= line.start) return line.leftPt;
  if (at >= line.visibleEnd) return line.leftPt + line.widthPt;
  const gaps = gapsOf(line);
  return (gaps.find((gap) => gap.at >= at) ?? { xPt: line.leftPt + line.widthPt }).xPt;
}

/** The height of a line's letters on the sheet, as a box has it. */
export const letterBoxOf = ({ baselinePt, sizePt }: SetLine): { y: number; height: number } => ({ y: baselinePt - sizePt * 0.82, height: sizePt * 1.06 });

/** The letters of a line that stand for a range of the words, as boxes where their shifts have taken them. */
export const boxesOn = (line: SetLine, range: WordRange) =>
  stretchesOf(line, range).map(({ leftPt, rightPt, shift }) => ({ ...letterBoxOf(line), x: leftPt, width: rightPt - leftPt, shift: shiftOf(shift) }));

/** The letter of a line at a place along it. */
export const letterAt = (line: SetLine, xPt: number): number => {
  const letters = setLettersOf(line);
  return (letters.find(({ leftPt, rightPt }) => xPt >= leftPt && xPt < rightPt) ?? letters[letters.length - 1])?.start ?? line.start;
};

const shiftOf = (shift: Matrix | undefined): string | null => (shift ? `matrix(${shift.a} ${shift.b} ${shift.c} ${shift.d} ${shift.e} ${shift.f})` : null);

/** How the letter that begins at a place of the words is shifted, or the last one before it. */
export const shiftAt = (line: SetLine, at: number): string | null => shiftOf(setLettersOf(line).findLast(({ start }) => start <= at)?.shift);

/** The place in the words nearest to a point of a line. */
export function offsetAt(line: SetLine, xPt: number): number {
  const places = [{ at: line.start, xPt: line.leftPt }, ...gapsOf(line), { at: line.visibleEnd, xPt: line.leftPt + line.widthPt }];
  return places.reduce((best, place) => (Math.abs(place.xPt - xPt) < Math.abs(best.xPt - xPt) ? place : best)).at;
}

const words = new Intl.Segmenter('und', { granularity: 'word' });

export function wordAt(text: string, at: number): { start: number; end: number } {
  const found = words.segment(text).containing(Math.min(at, Math.max(0, text.length - 1)));
  return found ? { start: found.index, end: found.index + found.segment.length } : { start: at, end: at };
}
