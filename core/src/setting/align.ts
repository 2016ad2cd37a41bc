/** Align stage: where lines begin. */
import type { Align } from '../job';

/** How far in a line begins that is so wide, in a room that may be narrower than it; same unit. A justified line that was not fitted stands left. */
export function indentOf(align: Align, room: number, width: number): number {
  if (align === 'centre') return (room - width) / 2;
  return align === 'right' ? room - width : 0;
}
