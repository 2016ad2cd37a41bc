/** Edits of words, and how to tell them from two texts. Apart from other edits since setting needs those, but no comparing of texts. */
import diff from 'fast-diff';
import { type Job, type Splice, findBlock, blocksOfPart, spliceWords, updateBlock } from '../job';

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

/**
 * Splices of one text, for what others have made of that text meanwhile: each stands where its letters have gone, and takes out no letter
 * that others put in.
 * @param before the text the splices were made for. @param now what it has become
 */
export function carriedSplices(splices: readonly Splice[], before: string, now: string): Splice[] {
  if (before === now) return [...splices];
  const others = splicesBetween(before, now);
  /** Where a place has gone. @param behind whether it stands behind what was put in right there */
  const gone = (at: number, behind: boolean): number =>
    others.reduce((moved, { start, end, insert }) => {
      if (at < start) return moved;
      if (at > end) return moved + insert.length - (end - start);
      return moved - (at - start) + (behind ? insert.length : 0);
    }, at);
  return splices.flatMap(({ start, end, insert }): Splice[] => {
    if (start === end) return [{ start: gone(start, true), end: gone(start, true), insert }];
    // Letters of others inside what was taken out stay: it is taken out around them.
    const inside = others.filter((one) => one.insert !== '' && one.start > start && one.start < end).sort((a, b) => b.start - a.start);
    const cuts = [end, ...inside.map((one) => one.start)];
    return cuts.map((cut, i): Splice => {
      const from = cuts[i + 1] ?? start;
      const [first, last] = [gone(from, true), gone(cut, false)];
      return { start: first, end: Math.max(first, last), insert: i === cuts.length - 1 ? insert : '' };
    });
  });
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

/** Replaces part of a block's words, and with them those of all blocks of its part; see `spliceWords` for what survives. */
export function editWords(job: Job, blockId: string, splices: readonly Splice[]): Job {
  const before = findBlock(job, blockId);
  const edited = updateBlock(job, blockId, (block) => splices.reduce(spliceWords, block));
  const after = findBlock(edited, blockId);
  if (!before || !after) return edited;
  return blocksOfPart(job, before).reduce(
    (next, { id }) =>
      updateBlock(next, id, (block) => (block.words === before.words ? splices : splicesBetween(block.words, after.words)).reduce(spliceWords, block)),
    edited,
  );
}
