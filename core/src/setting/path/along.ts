/** Path stage: lines of placed letters on a path. Each letter's advance stands with its middle on the path, further lines on its parallels. */
import { type Block, type Frame, type Ride } from '../../job';
import type { SetLine } from '../block-setting';
import type { FaceSet } from '../faces';
import { type Matrix, translate } from '../matrix';
import { type BendGap, bendGap, openedOnBend } from './bend';
import { type Curve, type OnCurve, curveOf, parallelOf } from './curve';
import { type PathLetter, middlePt, pathLetters } from './letters';

/** Gaps are solved so many times over: letters that move are turned anew. */
const ROUNDS = 3;
/** Words that reach past a path by less than this, in points, end with it. */
const HAIR = 0.01;

/** A gap between two of a line's letters, by their indexes; blanks may stand between them. */
export interface RiddenGap {
  gap: BendGap;
  from: number;
  to: number;
}

/** A line on its path. */
export interface RiddenLine {
  line: SetLine;
  letters: readonly PathLetter[];
  /** Where the middles of the letters' advances stand, on the sheet. */
  places: readonly OnCurve[];
  /** The gaps between letters as they are on the straight line. */
  gaps: readonly RiddenGap[];
  /** How far the bend has opened the gap after each letter, in points. */
  openedPt: readonly number[];
  /** True where the line reaches past an end of the path. */
  beyond: boolean;
}

/** Puts the lines of a block on its path. @param capPt height of the capitals of its first line. */
export function rideLines(block: Pick<Block, 'words' | 'frame'>, path: Ride, lines: readonly SetLine[], faces: FaceSet, capPt: number): RiddenLine[] {
  const curve = curveOnSheet(curveOf(path), block.frame);
  const first = lines[0]?.baselinePt ?? 0;
  return lines.map((line) => {
    const under = line.baselinePt - first;
    const downPt = under + (path.side === 'below' ? capPt + path.distancePt : -path.distancePt);
    return rideLine(block.words, path, curve, line, pathLetters(line, faces), downPt);
  });
}

const curveOnSheet = (curve: Curve, { xPt, yPt }: Frame): Curve => ({
  lengthPt: curve.lengthPt,
  at: (length) => {
    const { x, y, angle } = curve.at(length);
    return { x: x + xPt, y: y + yPt, angle };
  },
});

function rideLine(words: string, path: Ride, curve: Curve, line: SetLine, letters: readonly PathLetter[], downPt: number): RiddenLine {
  const parallel = parallelOf(curve, path.atShare * curve.lengthPt, downPt);
  const gaps = gapsBetween(
    words,
    letters.filter((letter) => letter.run !== line.mark),
    letters,
  );
  let openedPt = letters.map(() => 0);
  const startOf = (opened: readonly number[]): number => {
    const widthPt = line.widthPt + opened.reduce((sum, one) => sum + one, 0);
    return { start: 0, centre: -widthPt / 2, end: -widthPt }[path.hold];
  };
  const placesOf = (opened: readonly number[]): OnCurve[] => {
    let from = startOf(opened) - line.leftPt;
    return letters.map((letter, i) => {
      const place = parallel(from + middlePt(letter));
      from += opened[i] ?? 0;
      return place;
    });
  };
  let places = placesOf(openedPt);
  if (path.kerned) {
    for (let round = 0; round < ROUNDS; round++) {
      const [before, stood] = [openedPt, places];
      openedPt = letters.map(() => 0);
      for (const { gap, from, to } of gaps) {
        const [left, right] = [stood[from], stood[to]];
        // What parts two words is opened behind the blank.
        if (left && right) openedPt[to - 1] = openedOnBend(gap, { left: as(left, path), right: as(right, path) }, before[to - 1] ?? 0);
      }
      places = placesOf(openedPt);
    }
  }
  const from = startOf(openedPt);
  const reach = { from: parallel(from).length, to: parallel(line.widthPt + openedPt.reduce((sum, one) => sum + one, from)).length };
  const beyond = path.kind === 'circle' ? reach.to - reach.from > curve.lengthPt + HAIR : reach.from < -HAIR || reach.to > curve.lengthPt + HAIR;
  return { line, letters, places: places.map((place) => as(place, path)), gaps, openedPt, beyond };
}

/** The gaps between letters that show something, in their order. @param inLine those of the line, without its mark. */
function gapsBetween(words: string, inLine: readonly PathLetter[], letters: readonly PathLetter[]): RiddenGap[] {
  const gaps: RiddenGap[] = [];
  const shown = inLine.filter(({ instance, glyphId }) => instance.inkBounds(glyphId) !== undefined);
  const indexOf = new Map(letters.map((letter, i) => [letter, i]));
  shown.forEach((right, i) => {
    const left = shown[i - 1];
    const gap = left && bendGap(words, left, right);
    if (left && gap) gaps.push({ gap, from: indexOf.get(left) ?? 0, to: indexOf.get(right) ?? 0 });
  });
  return gaps;
}

/** A place as letters stand there: turned with the path, or upright. */
const as = (place: OnCurve, { letters }: Ride): OnCurve => (letters === 'upright' ? { ...place, angle: 0 } : place);

/** The map that takes a letter from its straight line to its place. */
export function toPlace(letter: PathLetter, { x, y, angle }: OnCurve, baselinePt: number): Matrix {
  if (angle === 0) return translate(x - middlePt(letter), y - baselinePt);
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [mx, my] = [middlePt(letter), baselinePt];
  return { a: cos, b: sin, c: -sin, d: cos, e: x - mx * cos + my * sin, f: y - mx * sin - my * cos };
}
