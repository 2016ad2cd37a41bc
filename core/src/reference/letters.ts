/** Letters of a reference on the sheet: read in a picture, or those of another sheet, for which they are known exactly. */
import type { Block } from '../job';
import { type Point, middleOf, turnedPoint } from '../placing';
import type { WordsReading } from '../reading';
import { type BlockSetting, setLettersOf } from '../setting';
import { type ReferencePlace, placeOnSheet } from './place';

/** A letter of a reference. */
export interface ReferenceLetter extends Point {
  /** Offset in the block's words. */
  at: number;
  /** How far its place along the line is off, as a standard deviation in points; undefined where it could not be told apart. */
  errorPt: number | undefined;
}

/** A line of a reference: the origins of its letters from left to right, in points of the sheet. */
export interface ReferenceLine {
  start: number;
  end: number;
  letters: readonly ReferenceLetter[];
}

/** Lines read in a picture, where it lies. */
export const readLinesOnSheet = ({ lines }: Pick<WordsReading, 'lines'>, place: ReferencePlace): ReferenceLine[] =>
  lines.map(({ start, end, letters }) => ({
    start,
    end,
    letters: letters.map(({ at, x, y, error }) => ({ at, ...placeOnSheet({ x, y }, place), errorPt: error === undefined ? undefined : error * place.scale })),
  }));

/** Lines of a block of another sheet, where it lies. Its words must be the same. */
export function setLinesOnSheet(block: Block, setting: BlockSetting, place: ReferencePlace): ReferenceLine[] {
  const around = middleOf(setting.frame);
  return setting.lines.map((line) => ({
    start: line.start,
    end: line.visibleEnd,
    letters: setLettersOf(line)
      .filter(({ start, end }) => block.words.slice(start, end).trim() !== '')
      .map(({ start, leftPt }) => {
        const { xPt, yPt } = turnedPoint({ xPt: leftPt, yPt: line.baselinePt }, around, block.rotationDeg);
        return { at: start, ...placeOnSheet({ x: xPt, y: yPt }, place), errorPt: 0 };
      }),
  }));
}
