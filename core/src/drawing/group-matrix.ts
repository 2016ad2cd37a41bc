import { compose, rotateDEG, translate } from 'transformation-matrix';
import type { Matrix } from '../setting';
import type { GroupNode } from './drawing';

/** How a group maps what is in it; undefined where it doesn't. */
export function groupMatrix({ turn, move }: GroupNode): Matrix | undefined {
  if (!turn && !move) return undefined;
  const steps = [...(move ? [translate(move.xPt, move.yPt)] : []), ...(turn ? [rotateDEG(turn.degrees, turn.xPt, turn.yPt)] : [])];
  return compose(...steps);
}
