/** Shift stage: where letters are moved to from where spacing has put them: a matrix per cluster. */
import type { Style } from '../job';
import { milliemToPoints } from '../units';
import { type Matrix, translate } from './matrix';

/** How far a style raises its letters above the baseline, in points; negative lowers them. */
export const raisePt = ({ baselineShiftMilliem, sizePt }: Style): number => (baselineShiftMilliem === 0 ? 0 : milliemToPoints(baselineShiftMilliem, sizePt));

/** The shift of letters in a style, in the sheet's coordinates; undefined where they stay. */
export function shiftOf(style: Style): Matrix | undefined {
  const raised = raisePt(style);
  return raised === 0 ? undefined : translate(0, -raised);
}
