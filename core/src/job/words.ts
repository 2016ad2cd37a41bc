import diff from 'fast-diff';
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
 * The splices that turn one text into another, from the end of the text to its beginning so that each can be applied
 * without moving the next.
 * @param caret where the caret stood after the edit: what is behind it stayed, which decides between equal readings (`AA` typed into `AAA`).
 */
export function splicesBetween(before: string, after: string, caret?: number): Splice[] {
  const edited = caret === undefined ? undefined : editBefore(before, after, caret);
  if (!edited) return differences(before, after, 0);
  const { start, end, insert } = edited;
  // What was replaced may hold letters that stayed.
  if (start < end && insert !== '') return differences(before.slice(start, end), insert, start);
  return start < end || insert !== '' ? [edited] : [];
}

/** The one splice that ends at the caret and turns one text into the other; undefined where there is none, as after a move inside a text. */
function editBefore(before: string, after: string, caret: number): Splice | undefined {
  const end = before.length - (after.length - caret);
  if (end < 0 || before.slice(end) !== after.slice(caret)) return undefined;
  const most = Math.min(end, caret);
  let start = 0;
  while (start < most && before.charCodeAt(start) === after.charCodeAt(start)) start++;
  // Not between the halves of a surrogate pair.
  if (start > 0 && /[\ud800-\udbff]/.test(after.charAt(start - 1))) start--;
  return { start, end, insert: after.slice(start, caret) };
}

/** Comparing costs up to the product of the lengths: beyond this, which takes some tenths of a second, texts are compared more coarsely. */
const MOST_COMPARED = 2_000_000;

/** Differences letter by letter; in longer texts word by word; in texts of which nothing may be left, the whole of what differs. */
function differences(before: string, after: string, offset: number): Splice[] {
  const most = Math.min(before.length, after.length);
  let head = 0;
  while (head < most && before.charCodeAt(head) === after.charCodeAt(head)) head++;
  let tail = 0;
  while (tail < most - head && before.charCodeAt(before.length - 1 - tail) === after.charCodeAt(after.length - 1 - tail)) tail++;
  // Not between the halves of a surrogate pair.
  if (head > 0 && /[\ud800-\udbff]/.test(before.charAt(head - 1))) head--;
  if (tail > 0 && /[\udc00-\udfff]/.test(before.charAt(before.length - tail))) tail--;
  const [old, now] = [before.slice(head, before.length - tail), after.slice(head, after.length - tail)];
  if (old.length * now.length <= MOST_COMPARED) return splicesOf(diff(before, after), offset);
  const numbers = new Map<string, number>();
  const [olds, nows] = [old, now].map((text) => text.split(/(?<=\s)/u));
  if (!olds || !nows || olds.length * nows.length > MOST_COMPARED) return [{ start: offset + head, end: offset + head + old.length, insert: now }];
  // Every word as one code unit, so that words are compared as letters are.
  const units = (words: readonly string[]): string => {
    for (const word of words) if (!numbers.has(word)) numbers.set(word, numbers.size + 1);
    return words.map((word) => String.fromCharCode(numbers.get(word) ?? 0)).join('');
  };
  const parts = diff(units(olds), units(nows));
  const words = [...numbers.keys()];
  const spelt = (text: string): string => Array.from({ length: text.length }, (_, i) => words[text.charCodeAt(i) - 1] ?? '').join('');
  return splicesOf(
    parts.map(([kind, text]) => [kind, spelt(text)]),
    offset + head,
  );
}

function splicesOf(parts: readonly diff.Diff[], offset: number): Splice[] {
  const splices: Splice[] = [];
  let at = offset;
  let open: Splice | undefined;
  for (const [kind, text] of parts) {
    if (kind === diff.EQUAL) {
      open = undefined;
      at += text.length;
      continue;
    }
    if (!open) {
      open = { start: at, end: at, insert: '' };
      splices.unshift(open);
    }
    if (kind === diff.DELETE) {
      at += text.length;
      open.end = at;
    } else {
      open.insert += text;
    }
  }
  return splices;
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
