/** Shift stage: where letters are moved to from where spacing has put them: a matrix per cluster. */
import type { FaceInstance } from '../face';
import type { Style } from '../job';
import { milliemToPoints } from '../units';
import { type Matrix, compose, translate } from './matrix';

/** A letter's style with what draws it. */
export interface StyledFace {
  readonly style: Style;
  readonly instance: FaceInstance;
}

/** How far a style raises its letters above the baseline, in points; negative lowers them. What is scaled from a middle keeps that where it was. */
export function raisePt({ style, instance }: StyledFace): number {
  const { baselineShiftMilliem, sizePt, scaleY, scaleFrom } = style;
  const raised = baselineShiftMilliem === 0 ? 0 : milliemToPoints(baselineShiftMilliem, sizePt);
  if (scaleY === 1 || scaleFrom === 'baseline') return raised;
  const { metrics, unitsPerEm } = instance;
  const kept = { 'x-height': metrics.xHeight / 2, capitals: metrics.capHeight / 2, 'cap line': metrics.capHeight }[scaleFrom];
  return raised + ((1 - scaleY) * kept * sizePt) / unitsPerEm;
}

/** How far a style moves its letters along the line, in points; negative to the left. */
export const movePt = ({ moveMilliem, sizePt }: Style): number => (moveMilliem === 0 ? 0 : milliemToPoints(moveMilliem, sizePt));

/** The room of a letter on its line, in points from the sheet's left and top. */
export interface LetterRoom {
  xPt: number;
  widthPt: number;
  baselinePt: number;
}

/** The shift of letters in a style that are raised and moved but not turned, in the sheet's coordinates; undefined where they stay. */
export function moveOf(face: StyledFace): Matrix | undefined {
  const [across, raised] = [movePt(face.style), raisePt(face)];
  return across === 0 && raised === 0 ? undefined : translate(across, -raised);
}

/**
 * The shifts of letters in a style that are turned, in the sheet's coordinates, by the room of each: clockwise, around the middle of that
 * and of the x-height; undefined where they are not.
 */
export function turnsOf(face: StyledFace): ((room: LetterRoom) => Matrix) | undefined {
  const { turnDeg, sizePt, scaleY } = face.style;
  if (turnDeg === 0) return undefined;
  const moved = moveOf(face);
  const { metrics, unitsPerEm } = face.instance;
  const middlePt = (metrics.xHeight * sizePt * scaleY) / (2 * unitsPerEm);
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  return ({ xPt, widthPt, baselinePt }) => {
    const [x, y] = [xPt + widthPt / 2, baselinePt - middlePt];
    const turned = { a: cos, b: sin, c: -sin, d: cos, e: x - cos * x + sin * y, f: y - sin * x - cos * y };
    return moved ? compose(moved, turned) : turned;
  };
}
