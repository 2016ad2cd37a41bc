/** Upright lines: letters one below the other, or whole lines turned a quarter. They stay where the ink of the straight lines stood. */
import type { Align, Path, Vertical } from '../../job';
import { type GlyphProfile, BASE_LEVEL, facedSide, offsetForWhite, profileOf, rhythmOf, roughDistance } from '../../spacing';
import type { SetLine } from '../block-setting';
import type { Box } from '../box';
import { standing } from '../shape-kerning';
import { type Matrix, translate } from '../matrix';
import { type PathLetter, trackingPt } from './letters';

/** A letter without ink takes this share of its size of a column. */
const BLANK = 0.5;

/** A point that meets a point has little ink beside it: they stay so far apart all the same, in em. */
const LEAST_CLEAR = 0.05;

/** A quarter to the left: what was below stands to the right of what was above, as neighbours on a line. */
const QUARTER = -90;

/** Where letters of columns stand: how far each is moved from its straight line. */
export function stackColumns(
  { columns, align }: { columns: Extract<Path, { kind: 'stacked' }>['columns']; align: Align },
  lines: readonly { line: SetLine; letters: readonly PathLetter[] }[],
  handPt: (upper: PathLetter, lower: PathLetter) => number,
): Matrix[][] {
  const firstBaseline = lines[0]?.line.baselinePt ?? 0;
  return lines.map(({ line, letters }) => {
    const away = (line.baselinePt - firstBaseline) * (columns === 'leftwards' ? -1 : 1);
    // Heights of the letters' middles down the column, from the first one's.
    const downPt: number[] = [];
    letters.forEach((letter, i) => {
      const before = letters[i - 1];
      downPt.push(before ? (downPt[i - 1] ?? 0) + pitchPt(before, letter) + handPt(before, letter) : 0);
    });
    const [first, last] = [letters[0], letters[letters.length - 1]];
    const top = first ? inkOver(first) : 0;
    const foot = last ? (downPt[downPt.length - 1] ?? 0) + inkUnder(last) : 0;
    const from = { left: top, right: -foot, centre: (top - foot) / 2, justified: top }[align];
    return letters.map((letter, i) => translate(away - inkMiddle(letter), from + (downPt[i] ?? 0) - line.baselinePt + middleUp(letter)));
  });
}

/** The middle of a letter's x-height over its baseline: what its profile is turned about, and columns are measured from. */
const middleUp = ({ instance, run }: PathLetter): number => (instance.metrics.xHeight * run.scale) / 2;

/** How far ink reaches over and under that, in points. */
const inkOver = (letter: PathLetter): number => inkEdge(letter, 'yMax') - middleUp(letter);
const inkUnder = (letter: PathLetter): number => middleUp(letter) - inkEdge(letter, 'yMin');
const inkEdge = ({ instance, glyphId, run }: PathLetter, edge: 'yMin' | 'yMax'): number => (instance.inkBounds(glyphId)?.[edge] ?? 0) * run.scale;

/** The middle of a letter's ink on its straight line. */
function inkMiddle({ instance, glyphId, run, penPt, widthPt }: PathLetter): number {
  const ink = instance.inkBounds(glyphId);
  return ink ? penPt + ((ink.xMin + ink.xMax) / 2) * run.xScale : penPt + widthPt / 2;
}

/**
 * From the middle of one letter to that of the one below it, in points: the white between its feet and the other's head is the white that
 * the face puts between its letters side by side, and tracking opens it.
 */
function pitchPt(upper: PathLetter, lower: PathLetter): number {
  const [a, b] = [profileOnSide(upper), profileOnSide(lower)];
  const em = upper.style.sizePt * upper.style.scaleY;
  if (!a || !b) return (BLANK * (em + lower.style.sizePt * lower.style.scaleY)) / 2 + trackingPt(upper);
  const { scale, across } = upper.style === lower.style ? BASE_LEVEL : standing(upper, lower);
  // On their sides, and their inks' middles under each other.
  const how = { scale: across, across: scale, shift: inkOnSide(upper) - inkOnSide(lower) * across };
  const rhythm = rhythmOf(upper.instance);
  const side = facedSide(a, b, how);
  let offset = offsetForWhite(a.right, side, rhythm.targets[4].tall.tall, 4);
  const distance = roughDistance(a.right, side, offset);
  if (distance < LEAST_CLEAR) offset += LEAST_CLEAR - distance;
  // Turned profiles stand about the middle of their advances.
  return (a.advance / 2 + offset) * em + (b.advance / 2) * lower.style.sizePt * lower.style.scaleY + trackingPt(upper);
}

/** The height of the ink's middle in such a profile, in em. */
function inkOnSide({ instance, glyphId }: PathLetter): number {
  const { metrics, unitsPerEm } = instance;
  const ink = instance.inkBounds(glyphId);
  const aside = ink ? (ink.xMin + ink.xMax - instance.advance(glyphId)) / 2 : 0;
  return (metrics.xHeight / 2 + aside) / unitsPerEm;
}

const profileOnSide = ({ instance, glyphId, style }: PathLetter): GlyphProfile | undefined => profileOf(instance, glyphId, style.turnDeg + QUARTER);

/** Turns all by a quarter. */
export const quarterTurn = (turn: Extract<Path, { kind: 'quarter' }>['turn']): Matrix =>
  turn === 'clockwise' ? { a: 0, b: 1, c: -1, d: 0, e: 0, f: 0 } : { a: 0, b: -1, c: 1, d: 0, e: 0, f: 0 };

/** The move from ink here to where other ink stood. */
export function movedTo(there: Box, here: Box, align: Align, vertical: Vertical): Matrix {
  const x = {
    left: there.leftPt - here.leftPt,
    justified: there.leftPt - here.leftPt,
    right: there.rightPt - here.rightPt,
    centre: (there.leftPt + there.rightPt - here.leftPt - here.rightPt) / 2,
  };
  const y = { top: there.topPt - here.topPt, bottom: there.bottomPt - here.bottomPt, middle: (there.topPt + there.bottomPt - here.topPt - here.bottomPt) / 2 };
  return translate(x[align], y[vertical]);
}
