/** Align stage: where lines begin. */
import type { Align, Block } from '../job';
import type { LineEdges } from './line-edges';

/** How far in a line begins that is so wide, in a room that may be narrower than it; same unit. A justified line that was not fitted stands left. */
export function indentOf(align: Align, room: number, width: number): number {
  if (align === 'centre') return (room - width) / 2;
  return align === 'right' ? room - width : 0;
}

/**
 * The same for a line that is aligned by its edges: in points from the left of its room to where its pen starts. A centred line is centred
 * on the ink of its letters and dashes, whatever other marks stand before and behind them; else what hangs does so outside the room.
 * @param widerPt how much wider the line was made than its edges say.
 */
export function alignedTo({ align, edges }: Pick<Block, 'align' | 'edges'>, line: LineEdges, widerPt: number, room: number): number {
  const { leftPt, rightPt } = align === 'centre' && edges ? line.letters : line;
  return indentOf(align, room, rightPt + widerPt - leftPt) - leftPt;
}
