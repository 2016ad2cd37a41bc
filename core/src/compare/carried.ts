/** A block of an earlier state, seen in the words of a later one. */
import { type Block, type Run, type Splice, type StyleKey, type WordRange, restyleRanges, spliceWords } from '../job';
import { splicesBetween } from '../wording';
import { differ } from './aspects';

/** The earlier block as it would be if nothing but its words had been edited. */
export const carried = (before: Block, words: string): Block =>
  before.words === words ? before : splicesBetween(before.words, words).reduce(spliceWords, before);

/** A stretch of letters with a value of its own. */
export interface Override extends WordRange {
  value: unknown;
}

/** Where letters have a value of their own for a property; neighbours that say the same are one. */
export function carriedOverrides(runs: readonly Run[], key: StyleKey): Override[] {
  const found: Override[] = [];
  for (const { start, end, style } of runs) {
    const value = style[key];
    if (value === undefined) continue;
    const last = found[found.length - 1];
    if (last?.end === start && !differ(last.value, value)) last.end = end;
    else found.push({ start, end, value });
  }
  return found;
}

/** A block whose letters have these values of their own for one property, and no others. */
export function withOverrides(block: Block, key: StyleKey, overrides: readonly Override[]): Block {
  const runs = block.runs.map((run): Run => {
    const style = { ...run.style };
    // eslint-disable-next-line @typescript-eslint/no-dynamic-delete -- a run without the property, not with it undefined
    delete style[key];
    return { ...run, style };
  });
  return restyleRanges(
    { ...block, runs: runs.filter(({ style }) => Object.keys(style).length > 0) },
    overrides.map(({ start, end, value }) => ({ start, end, change: { [key]: value } })),
  );
}

/**
 * A block whose own value for a property has just been reverted. Letters that had the same value as the block, of themselves, follow it;
 * but those that had it earlier too, and departed from the block then, do so again.
 * @param was what the block's own value was until now. @param runs the earlier runs.
 */
export function withPlain(block: Block, key: StyleKey, was: unknown, runs: readonly Run[]): Block {
  const apart = carriedOverrides(block.runs, key).filter(({ value }) => differ(value, was));
  const again = carriedOverrides(runs, key).filter(({ value }) => !differ(value, was));
  return restyleRanges(
    withOverrides(block, key, again),
    apart.map(({ start, end, value }) => ({ start, end, change: { [key]: value } })),
  );
}

/** A list of things that stand at places in the words. */
type Anchored = 'hand' | 'intended' | 'lineLeading' | 'lineIndents';
const ANCHORED: readonly Anchored[] = ['hand', 'intended', 'lineLeading', 'lineIndents'];

/**
 * A block with the words of an earlier state. What was done since to letters that were there then stays; what stood at words that come
 * back comes back with them.
 */
export function withWordsOf(block: Block, before: Block): Block {
  if (block.words === before.words) return block;
  const made = splicesBetween(before.words, block.words);
  const next = undoing(made, before.words).reduce(spliceWords, block);
  const gone = made.filter(({ start, end }) => end > start).reverse();
  const lost = (at: number): boolean => made.some(({ start, end }) => at >= start && at <= end);
  const anchored = Object.fromEntries(
    ANCHORED.map((name) => {
      const kept: readonly { at: number }[] = next[name];
      const taken = new Set(kept.map(({ at }) => at));
      const back: readonly { at: number }[] = before[name];
      return [name, [...kept, ...back.filter(({ at }) => lost(at) && !taken.has(at))].sort((a, b) => a.at - b.at)];
    }),
  ) as Pick<Block, Anchored>;
  // Letters that come back are styled as they were; they have grown into the styles beside them.
  const runs = [...outside(next.runs, gone), ...gone.flatMap((range) => inside(before.runs, range))].sort((a, b) => a.start - b.start);
  const tightened = [...outside(next.tightened, gone), ...gone.flatMap((range) => inside(before.tightened, range))].sort((a, b) => a.start - b.start);
  return { ...restyleRanges({ ...next, runs }, []), ...anchored, tightened };
}

/** The splices that undo others, from the end to the beginning. @param splices from the end to the beginning, of these words. */
function undoing(splices: readonly Splice[], words: string): Splice[] {
  let shift = 0;
  return [...splices]
    .reverse()
    .map(({ start, end, insert }): Splice => {
      const from = start + shift;
      shift += insert.length - (end - start);
      return { start: from, end: from + insert.length, insert: words.slice(start, end) };
    })
    .reverse();
}

/** The parts of stretches inside a range. */
const inside = <T extends WordRange>(stretches: readonly T[], { start, end }: WordRange): T[] =>
  stretches.filter((one) => one.start < end && one.end > start).map((one) => ({ ...one, start: Math.max(one.start, start), end: Math.min(one.end, end) }));

/** The parts of stretches outside ranges, which are sorted and apart. */
function outside<T extends WordRange>(stretches: readonly T[], ranges: readonly WordRange[]): T[] {
  return stretches.flatMap((one) => {
    const parts: T[] = [];
    let at = one.start;
    for (const { start, end } of ranges) {
      if (end <= at || start >= one.end) continue;
      if (start > at) parts.push({ ...one, start: at, end: start });
      at = end;
    }
    return at < one.end ? [...parts, { ...one, start: at }] : parts;
  });
}
