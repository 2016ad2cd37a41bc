/** Passages: words with their settings, to be carried elsewhere; and finding and replacing over a whole job. */
import * as z from 'zod';
import type { StoredKind } from '../stored';
import {
  type Block,
  JOB_VERSION,
  type Job,
  type Splice,
  allBlocks,
  graphemeBoundaries,
  handKernSchema,
  restyle,
  styleSchema,
  styledRanges,
  updateBlock,
  upgradedStyle,
} from '../job';
import { editWords } from './edit-words';

/** Media type of a passage on the clipboard. */
export const PASSAGE_TYPE = 'application/vnd.jentrix.passage+json';

export const passageSchema = z.strictObject({
  words: z.string().max(20_000),
  styles: z.array(z.strictObject({ start: z.int().min(0), end: z.int().min(1), style: styleSchema })).max(2000),
  hand: z.array(handKernSchema).max(20_000),
});
/** Passages on the clipboard. Version 1 is the style of job format 3; since then they follow the job's. */
export const STORED_PASSAGE: StoredKind<typeof passageSchema> = {
  name: 'passage',
  version: JOB_VERSION,
  schema: passageSchema,
  upgrade: ({ styles, ...rest }, from) => ({
    ...rest,
    styles: Array.isArray(styles)
      ? styles.map((one: unknown) =>
          typeof one === 'object' && one !== null && 'style' in one ? { ...one, style: upgradedStyle(one.style, Math.max(3, from)) } : one,
        )
      : styles,
  }),
};

export type Passage = z.infer<typeof passageSchema>;

/** Part of a block's words with the style of every letter and the hand kerning inside. */
export function copyPassage(block: Block, start: number, end: number): Passage {
  return {
    words: block.words.slice(start, end),
    styles: styledRanges(block, start, end).map((range) => ({ start: range.start - start, end: range.end - start, style: range.style })),
    hand: block.hand.filter(({ at }) => at > start && at < end).map(({ at, milliem }) => ({ at: at - start, milliem })),
  };
}

/** Puts a passage in the place of part of a block's words, its settings and kerning with it. */
export function pastePassage(job: Job, blockId: string, start: number, end: number, passage: Passage): Job {
  let next = editWords(job, blockId, [{ start, end, insert: passage.words }]);
  const { length } = passage.words;
  for (const { start: from, end: to, style } of passage.styles) {
    if (from < to && to <= length) next = restyle(next, blockId, style, { start: start + from, end: start + to });
  }
  return updateBlock(next, blockId, (block) => {
    const brought = passage.hand.filter(({ at }) => at < length).map(({ at, milliem }) => ({ at: at + start, milliem }));
    const taken = new Set(brought.map(({ at }) => at));
    return brought.length === 0 ? block : { ...block, hand: [...block.hand.filter(({ at }) => !taken.has(at)), ...brought].sort((a, b) => a.at - b.at) };
  });
}

/** A place in the words where a searched text stands. */
export interface TextMatch {
  blockId: string;
  start: number;
  end: number;
}

/**
 * Every place of a text in a job, sheet by sheet. Whole letters are compared (UAX #29 graphemes), however their accents are written; case
 * counts only where asked for.
 */
export function findText(job: Job, text: string, matchCase = false): TextMatch[] {
  const lettersOf = (value: string): string[] =>
    [0, ...graphemeBoundaries(value)].map((start, i, all) => {
      const letter = value.slice(start, all[i + 1]).normalize('NFC');
      return matchCase ? letter : letter.toLowerCase();
    });
  if (text === '') return [];
  const wanted = lettersOf(text);
  return allBlocks(job).flatMap(({ id, words }) => {
    const letters = lettersOf(words);
    const starts = [0, ...graphemeBoundaries(words), words.length];
    const matches: TextMatch[] = [];
    for (let i = 0; i + wanted.length <= letters.length; i++) {
      if (!wanted.every((letter, j) => letters[i + j] === letter)) continue;
      matches.push({ blockId: id, start: starts[i] ?? 0, end: starts[i + wanted.length] ?? words.length });
      i += wanted.length - 1;
    }
    return matches;
  });
}

/** Replaces matches by a text; the spacing work around them survives as it does in any edit. */
export function replaceMatches(job: Job, matches: readonly TextMatch[], insert: string): Job {
  const byBlock = new Map<string, Splice[]>();
  for (const { blockId, start, end } of matches) byBlock.set(blockId, [...(byBlock.get(blockId) ?? []), { start, end, insert }]);
  let next = job;
  for (const [blockId, splices] of byBlock)
    next = editWords(
      next,
      blockId,
      splices.sort((a, b) => b.start - a.start),
    );
  return next;
}
