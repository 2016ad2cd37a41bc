/** Letters of a block picked by kind, and what is done to picked letters: each one's own values, wherever they stand. */
import { restyleRanges, updateBlock } from './edits';
import { graphemeBoundaries } from './graphemes';
import { styleAt, styledRanges } from './runs';
import type { Block, Job, WordRange } from './schema';
import { STYLE_PROPERTIES, type Style } from './style';

/** The letters of words with something to see, by where each begins and ends. */
export function visibleLetters(words: string): WordRange[] {
  const starts = [0, ...graphemeBoundaries(words)];
  return starts.map((start, i) => ({ start, end: starts[i + 1] ?? words.length })).filter(({ start, end }) => words.slice(start, end).trim() !== '');
}

/** A way to pick letters by kind. Adding one is a line in `PICKS`. */
export interface Pick {
  id: string;
  /** As people read it. */
  name: string;
  /** @param from the letters that are picked already. */
  of(words: string, from: readonly WordRange[]): WordRange[];
}

const like =
  (pattern: RegExp) =>
  (words: string): WordRange[] =>
    visibleLetters(words).filter(({ start, end }) => pattern.test(words.slice(start, end)));

/** The first and the last letter or figure of every word. */
function endsOfWords(words: string): WordRange[] {
  const ends: WordRange[] = [];
  let last: WordRange | undefined;
  let wordEnd = -1;
  for (const letter of visibleLetters(words)) {
    if (!/^[\p{L}\p{N}]/u.test(words.slice(letter.start, letter.end))) continue;
    if (letter.start > wordEnd) {
      if (last) ends.push(last);
      ends.push(letter);
      last = undefined;
      const blank = /\s/u.exec(words.slice(letter.start));
      wordEnd = blank ? letter.start + blank.index : words.length;
    } else last = letter;
  }
  return last ? [...ends, last] : ends;
}

export const PICKS: readonly Pick[] = [
  { id: 'all', name: 'All', of: (words) => visibleLetters(words) },
  {
    id: 'same',
    name: 'Same letters',
    of: (words, from) => {
      const wanted = new Set(from.map(({ start, end }) => words.slice(start, end)));
      return visibleLetters(words).filter(({ start, end }) => wanted.has(words.slice(start, end)));
    },
  },
  { id: 'second', name: 'Every 2nd', of: (words) => visibleLetters(words).filter((_, i) => i % 2 === 0) },
  { id: 'third', name: 'Every 3rd', of: (words) => visibleLetters(words).filter((_, i) => i % 3 === 0) },
  { id: 'fourth', name: 'Every 4th', of: (words) => visibleLetters(words).filter((_, i) => i % 4 === 0) },
  { id: 'ends', name: 'Ends of words', of: endsOfWords },
  { id: 'capitals', name: 'Capitals', of: like(/^\p{Lu}/u) },
  { id: 'figures', name: 'Figures', of: like(/^\p{Nd}/u) },
  { id: 'marks', name: 'Punctuation', of: like(/^[\p{P}\p{S}]/u) },
];

/** The properties that shift letters, one by one: what can be reset by itself. */
export const SHIFTS = ['baselineShiftMilliem', 'moveMilliem', 'turnDeg', 'scaleX', 'scaleY', 'scaleFrom'] as const satisfies readonly (keyof Style)[];
export type ShiftKey = (typeof SHIFTS)[number];
/** Those that are numbers. */
export type ShiftNumber = Exclude<ShiftKey, 'scaleFrom'>;

/** Letters that stand side by side as one range, in order. */
function joined(letters: readonly WordRange[]): WordRange[] {
  const ranges: WordRange[] = [];
  for (const { start, end } of [...letters].sort((a, b) => a.start - b.start)) {
    const last = ranges[ranges.length - 1];
    if (last && last.end >= start) last.end = Math.max(last.end, end);
    else ranges.push({ start, end });
  }
  return ranges;
}

/** A block with picked letters in another style. */
export const withLetters = (block: Block, letters: readonly WordRange[], change: Partial<Style>): Block =>
  restyleRanges(
    block,
    joined(letters).map((range) => ({ ...range, change })),
  );

/** Gives picked letters of a block a style. */
export const restyleLetters = (job: Job, blockId: string, letters: readonly WordRange[], change: Partial<Style>): Job =>
  updateBlock(job, blockId, (block) => withLetters(block, letters, change));

/** The value nearest to one that a property can have. */
function within(key: ShiftNumber, value: number): number {
  const { minValue, maxValue } = STYLE_PROPERTIES[key].schema;
  return Math.min(maxValue ?? value, Math.max(minValue ?? value, value));
}

/** Adds to a value of picked letters, each to its own. */
export const nudgeLetters = (job: Job, blockId: string, letters: readonly WordRange[], key: ShiftNumber, by: number): Job =>
  updateBlock(job, blockId, (block) =>
    restyleRanges(
      block,
      [...letters]
        .sort((a, b) => a.start - b.start)
        .map((letter) => ({ ...letter, change: { [key]: within(key, Math.round((styleAt(block, letter.start)[key] + by) * 1e6) / 1e6) } })),
    ),
  );

/** Takes one kind of shift, or all, from picked letters: they have what the block states for all, or nothing where that is shifted too. */
export const resetLetters = (job: Job, blockId: string, letters: readonly WordRange[], keys: readonly ShiftKey[] = SHIFTS): Job =>
  restyleLetters(job, blockId, letters, Object.fromEntries(keys.map((key) => [key, STYLE_PROPERTIES[key].default])));

/** The letters of a block that are shifted in any way. */
export function shiftedLetters(block: Block): WordRange[] {
  const shifted = styledRanges(block, 0, block.words.length).filter(({ style }) => SHIFTS.some((key) => style[key] !== STYLE_PROPERTIES[key].default));
  if (shifted.length === 0) return [];
  let r = 0;
  return visibleLetters(block.words).filter(({ start }) => {
    while (r < shifted.length - 1 && (shifted[r]?.end ?? 0) <= start) r++;
    const range = shifted[r];
    return range !== undefined && range.start <= start && start < range.end;
  });
}
