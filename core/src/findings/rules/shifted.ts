/** Letters that are raised, turned or made small: what the eye takes for a slip. */
import { measureAnatomy } from '../../advice';
import { type Block, type Style, styleAt } from '../../job';
import { type FaceSet, type SetLetter, type SetLine, setLettersOf } from '../../setting';
import { fromPoints, printSigned, printValue } from '../../units';
import type { Found } from '../finding';
import type { BlockView, Rule } from '../rule';
import { nearLines } from './near-lines';
import { lettersWithStyle, scriptsIn } from './scripts-in';

/** Turns that differ by no more than this, in degrees, were meant to be the same. */
const NEARLY = 2.5;

export const nearTurn: Rule = {
  id: 'near-turn',
  pass: 'shift',
  name: 'Rotation nearly matches its neighbour',
  looksAt: 'block',
  look: ({ block }) =>
    lettersWithStyle(block).flatMap((letter, i, all): Found[] => {
      const before = all[i - 1];
      if (before?.end !== letter.start) return [];
      const [turn, other] = [letter.style.turnDeg, before.style.turnDeg];
      const away = Math.abs(turn - other);
      // One that stands upright is turned by nothing: nearly upright is nearly that.
      if (away === 0 || away > NEARLY) return [];
      // A row that turns on and on by small steps is meant.
      const next = all[i + 1];
      if (next && Math.abs(next.style.turnDeg - turn - (turn - other)) < 0.01) return [];
      const earlier = all[i - 2];
      if (earlier && Math.abs(other - earlier.style.turnDeg - (turn - other)) < 0.01) return [];
      return [
        {
          at: letter.start,
          severity: 'notice',
          visiblePt: letter.style.sizePt * Math.sin((away * Math.PI) / 180),
          subject: letter.text,
          message: `rotated by ${printSigned(turn)}°, its neighbour by ${printSigned(other)}°`,
          proposal: { ranges: [{ start: letter.start, end: letter.end, style: { turnDeg: other } }] },
        },
      ];
    }),
};

/** A stem that has less than this share of its neighbours' looks pale beside them. */
const PALE = 0.75;

export const paleScript: Rule = {
  id: 'pale-script',
  pass: 'shift',
  name: 'Small letters too light',
  looksAt: 'block',
  look: ({ block, faces }) =>
    scriptsIn(block).flatMap(({ start, end, text, style, beside, kind }): Found[] => {
      const share = stemOf(style, faces) / stemOf(beside, faces);
      if (!(share < PALE)) return [];
      // Where no weight is left that keeps the stem better, lighter is what there is.
      const heavier = heavierAxes(style, beside, faces);
      if (!heavier) return [];
      return [
        {
          at: start,
          severity: 'notice',
          visiblePt: style.sizePt * style.scaleY * (1 - share) * 0.2,
          subject: text,
          message: `synthesised ${kind}: stems ${Math.round(share * 100)} % of its neighbours’`,
          proposal: { ranges: [{ start, end, style: { axes: heavier } }] },
        },
      ];
    }),
};

/** The stem of letters on the sheet, in points. */
function stemOf(style: Style, faces: FaceSet): number {
  return measureAnatomy(faces.instance(style)).stem * style.sizePt * style.scaleX;
}

/** The weight at which the small letters have their neighbours' stems, as far as the face has it. */
function heavierAxes(style: Style, beside: Style, faces: FaceSet): Style['axes'] | undefined {
  const axis = faces.instance(style).face.axes.find(({ tag }) => tag === 'wght');
  if (!axis) return undefined;
  const wanted = stemOf(beside, faces);
  const axesAt = (weight: number): Style['axes'] => ({ ...style.axes, wght: weight });
  let [light, heavy] = [style.axes['wght'] ?? axis.default, axis.max];
  if (heavy <= light || stemOf({ ...style, axes: axesAt(heavy) }, faces) <= stemOf(style, faces)) return undefined;
  for (let i = 0; i < 7; i++) {
    const middle = (light + heavy) / 2;
    if (stemOf({ ...style, axes: axesAt(middle) }, faces) < wanted) light = middle;
    else heavy = middle;
  }
  return axesAt(Math.round(heavy));
}

/** Figures of less than this height at the eye are not read, in minutes of arc: twice what the keenest eye tells apart (ISO 8596). */
const LEAST_ARC = 10;

export const tinyScript: Rule = {
  id: 'tiny-script',
  pass: 'shift',
  name: 'Small letters too small to read',
  looksAt: 'block',
  look: ({ block, faces, distanceMm }) => {
    const leastMm = distanceMm * Math.tan((LEAST_ARC / 60) * (Math.PI / 180));
    return scriptsIn(block).flatMap(({ start, text, style, kind }): Found[] => {
      const { metrics, unitsPerEm } = faces.instance(style);
      const highPt = (metrics.capHeight / unitsPerEm) * style.sizePt * style.scaleY;
      const highMm = fromPoints(highPt, 'mm');
      if (highMm >= leastMm) return [];
      const message = `${kind} ${printValue(highMm, 1)} mm high: needs ${printValue(leastMm, 1)} mm to be read from ${printValue(distanceMm / 1000, 1)} m`;
      return [{ at: start, severity: 'fault', visiblePt: highPt, subject: text, message }];
    });
  },
};

const isShifted = ({ baselineShiftMilliem, turnDeg, scaleY }: Style): boolean => baselineShiftMilliem !== 0 || turnDeg !== 0 || scaleY !== 1;

/** The shifted letter of two lines that stands where they come nearest, if one does. @param xPt from the sheet's left */
export function shiftedAt(block: Block, upper: SetLine, lower: SetLine, xPt: number): { letter: SetLetter; where: 'above' | 'below' } | undefined {
  return [lower, upper].flatMap((line, i): { letter: SetLetter; where: 'above' | 'below' }[] => {
    const letter = setLettersOf(line).find(({ leftPt, rightPt }) => xPt >= leftPt - 1 && xPt <= rightPt + 1);
    return letter && isShifted(styleAt(block, letter.start)) ? [{ letter, where: i === 0 ? 'above' : 'below' }] : [];
  })[0];
}

export const meetsLine: Rule = {
  id: 'shift-meets-line',
  pass: 'shift',
  name: 'Shifted letters touch another line',
  looksAt: 'block',
  look: ({ block, setting, faces }) => {
    if (!block.runs.some(({ style }) => isShifted({ ...block.style, ...style })) && !isShifted(block.style)) return [];
    return nearLines(setting, faces).flatMap(({ upper, lower, gap: { clearPt, xPt } }): Found[] => {
      if (clearPt === undefined || clearPt > 0) return [];
      const found = shiftedAt(block, upper, lower, xPt);
      if (!found) return [];
      const { letter, where } = found;
      return [
        {
          at: letter.start,
          severity: 'fault',
          visiblePt: -clearPt + 0.1,
          subject: block.words.slice(letter.start, letter.end),
          message: `touches the line ${where}`,
        },
      ];
    });
  },
};

export const beyondPath: Rule = {
  id: 'beyond-path',
  pass: 'shift',
  name: 'Words longer than their path',
  looksAt: 'block',
  look: ({ block, setting }: BlockView) =>
    setting.beyondPath
      ? [
          {
            at: 0,
            severity: 'fault',
            visiblePt: block.style.sizePt,
            subject: block.words.slice(0, 20).replaceAll('\n', ' '),
            message: 'longer than the path',
          },
        ]
      : [],
};

export const SHIFTED: readonly Rule[] = [nearTurn, paleScript, tinyScript, meetsLine, beyondPath];
