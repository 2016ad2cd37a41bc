/** How a block differs from its reference: line by line, and gap by gap where letters could be told apart. */
import type { Block } from '../job';
import { type Point, middleOf, turnedPoint } from '../placing';
import { type BlockSetting, setLettersOf } from '../setting';
import type { ReferenceLetter, ReferenceLine } from './letters';

/** A gap that is wider or narrower in the reference. */
export interface GapDifference {
  /** The left letter, and the place in the words between it and the right one. */
  from: number;
  at: number;
  /** The space to add to be as wide as in the reference: points, and 1/1000 em of the left letter. */
  byPt: number;
  milliem: number;
  /** The standard deviation of that, in 1/1000 em. */
  errorMilliem: number;
}

/** The space to add to a line to match the reference, in points. */
export interface LineDifference {
  /** Of the block's lines, from 0. */
  line: number;
  start: number;
  end: number;
  /** From its first letter that both have to the last, origin to origin. */
  widthPt: number;
  /** Where it begins: farther to the right. */
  startPt: number;
  /** Farther down. */
  baselinePt: number;
  gaps: readonly GapDifference[];
}

export interface Differences {
  lines: readonly LineDifference[];
  /** Lines of the reference that end somewhere else in the words. */
  brokenElsewhere: number;
}

/**
 * Compares a block as it is set with the lines of a reference. What the block is turned by counts for both; lines that the reference
 * breaks elsewhere are compared as far as both go together.
 */
export function referenceDifferences(block: Pick<Block, 'rotationDeg' | 'words'>, setting: BlockSetting, reference: readonly ReferenceLine[]): Differences {
  const around = middleOf(setting.frame);
  const lines: LineDifference[] = [];
  let brokenElsewhere = 0;
  setting.lines.forEach((line, l) => {
    const own = setLettersOf(line).filter(({ start, end }) => block.words.slice(start, end).trim() !== '');
    const [first, last] = [own[0], own[own.length - 1]];
    const like = first && reference.find(({ start, end }) => first.start >= start && first.start < end);
    if (!first || !last || !like) return;
    if (like.start !== first.start || !like.letters.some(({ at }) => at === last.start)) brokenElsewhere++;
    // Of a letter and its marks the letter comes first.
    const theirs = new Map([...like.letters].reverse().map((letter) => [letter.at, { ...letter, ...turnedPoint(letter, around, -block.rotationDeg) }]));
    const both = own.flatMap((letter, place) => {
      const their = theirs.get(letter.start);
      return their ? [{ letter, their, place }] : [];
    });
    const [from, to] = [both[0], both[both.length - 1]];
    if (!from || !to) return;
    // Along the reference's own line, which may lean a little.
    const along = directionOf(from.their, to.their);
    const gaps = both.flatMap(({ letter, their, place }, i): GapDifference[] => {
      const before = both[i - 1];
      const told = before && toldApart(before.their, their);
      if (!before || told === undefined || place !== before.place + 1) return [];
      const byPt = distance(before.their, their, along) - (letter.leftPt - before.letter.leftPt);
      const em = before.letter.sizePt / 1000;
      return [{ from: before.letter.start, at: letter.start, byPt, milliem: byPt / em, errorMilliem: told / em }];
    });
    lines.push({
      ...{ line: l, start: line.start, end: line.visibleEnd },
      widthPt: distance(from.their, to.their, along) - (to.letter.leftPt - from.letter.leftPt),
      startPt: from.their.xPt - from.letter.leftPt,
      baselinePt: both.reduce((sum, { their }) => sum + their.yPt, 0) / both.length - line.baselinePt,
      gaps,
    });
  });
  return { lines, brokenElsewhere };
}

function directionOf(from: Point, to: Point): Point {
  const length = Math.hypot(to.xPt - from.xPt, to.yPt - from.yPt);
  return length > 0 ? { xPt: (to.xPt - from.xPt) / length, yPt: (to.yPt - from.yPt) / length } : { xPt: 1, yPt: 0 };
}

const distance = (from: Point, to: Point, along: Point): number => (to.xPt - from.xPt) * along.xPt + (to.yPt - from.yPt) * along.yPt;

const toldApart = (a: ReferenceLetter, b: ReferenceLetter): number | undefined =>
  a.errorPt === undefined || b.errorPt === undefined ? undefined : Math.hypot(a.errorPt, b.errorPt);
