import type { SetLine } from '../setting';
import type { Change } from './compare';

/**
 * Changes with the lines they are in, where their blocks have more than one.
 * @param linesOf the lines of a block as the later state sets them; undefined where it is not set.
 */
export function onLines(changes: readonly Change[], linesOf: (blockId: string) => readonly Pick<SetLine, 'start' | 'end'>[] | undefined): Change[] {
  return changes.map((change) => {
    const { blockId, at } = change;
    const lines = blockId === undefined || at === undefined ? undefined : linesOf(blockId);
    if (!lines || lines.length < 2 || at === undefined) return change;
    const index = lines.findIndex(({ start, end }) => at >= start && at < end);
    return index < 0 ? change : { ...change, line: index + 1, says: `${change.says}, line ${index + 1}` };
  });
}
