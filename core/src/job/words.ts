import { isGraphemeBoundary } from './graphemes';
import type { Block, WordRange } from './schema';

/** Every way of ending a line, and the tabulator, which is a blank like any other here. */
const LINE_ENDS = /\r\n|[\v\f\r\u0085\u2028\u2029]/g;
const ANY_ODD = /[\t\v\f\r\u0085\u2028\u2029]/;

/** Words as they are kept, out of words as they come in: lines end in line feeds, and tabulators are spaces. */
export const wordsFrom = (text: string): string => (ANY_ODD.test(text) ? text.replace(LINE_ENDS, '\n').replaceAll('\t', ' ') : text);

/** Replace `words.slice(start, end)` by `insert`; UTF-16 offsets. */
export interface Splice {
  start: number;
  end: number;
  insert: string;
}

/**
 * A block with part of its words replaced. Hand kerning stays with every pair whose two letters survive side by side,
 * and so do the styles of surviving letters; inserted letters take the style of the letter before them.
 * @throws RangeError when the splice lies outside the words.
 */
export function spliceWords(block: Block, splice: Splice): Block {
  const { start, end } = splice;
  const insert = wordsFrom(splice.insert);
  if (start < 0 || end < start || end > block.words.length) throw new RangeError('The edit lies outside the words.');
  const words = block.words.slice(0, start) + insert + block.words.slice(end);
  const shift = insert.length - (end - start);
  return {
    ...block,
    words,
    runs: shiftRuns(block.runs, start, end, insert.length, shift),
    hand: shiftGaps(block.hand, start, end, insert.length, shift).filter(({ at }) => isGraphemeBoundary(words, at)),
    intended: shiftGaps(block.intended, start, end, insert.length, shift).filter(({ at }) => isGraphemeBoundary(words, at)),
    lineLeading: shiftGaps(block.lineLeading, start, end, insert.length, shift).filter(({ at }) => isGraphemeBoundary(words, at)),
    lineIndents: shiftGaps(block.lineIndents, start, end, insert.length, shift).filter(({ at }) => at === 0 || isGraphemeBoundary(words, at)),
    tightened: shiftRuns(block.tightened, start, end, insert.length, shift),
    parked: block.parked.map((kept) => ({
      ...kept,
      hand: shiftGaps(kept.hand, start, end, insert.length, shift).filter(({ at }) => isGraphemeBoundary(words, at)),
    })),
  };
}

/** A gap survives when the code units on both sides do and nothing came between them. */
function shiftGaps<T extends { at: number }>(anchored: readonly T[], start: number, end: number, inserted: number, shift: number): T[] {
  const kept: T[] = [];
  for (const thing of anchored) {
    if (thing.at === 0 || thing.at < start || (thing.at === start && start === end && inserted === 0)) kept.push(thing);
    else if (thing.at > end) kept.push({ ...thing, at: thing.at + shift });
  }
  return kept;
}

/**
 * Inserted letters take the style of the first letter they replace, else of the letter before them: that letter's run
 * grows or shrinks around them, all others only move.
 */
function shiftRuns<T extends WordRange>(runs: readonly T[], start: number, end: number, inserted: number, shift: number): T[] {
  const move = (at: number): number => {
    if (at < start || (at === start && end > start)) return at;
    return at < end ? start + inserted : at + shift;
  };
  return runs.map((run) => ({ ...run, start: move(run.start), end: move(run.end) })).filter((run) => run.end > run.start);
}
