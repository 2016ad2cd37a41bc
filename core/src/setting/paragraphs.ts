/** First stage: the words of a block become paragraphs, at hard breaks, each with the mark of a list where there is one. */
import type { Block, WordRange } from '../job';
import { levelsOf } from './levels';

/** A stretch of words between hard breaks; a line feed belongs to neither side. */
export interface Paragraph extends WordRange {
  /** The embedding level (UAX #9) of every code unit; undefined where everything runs to the right. */
  readonly levels: Uint8Array | undefined;
}

/** A paragraph with what stands before it: a bullet or a number, as text. */
export interface MarkedParagraph extends Paragraph {
  readonly mark: string | undefined;
}

/** The paragraphs of a block. An empty one has no mark and isn't counted. */
export function paragraphs({ words, paragraph: { list } }: Pick<Block, 'words' | 'paragraph'>): MarkedParagraph[] {
  const found: MarkedParagraph[] = [];
  let start = 0;
  let count = 0;
  for (;;) {
    const feed = words.indexOf('\n', start);
    const end = feed < 0 ? words.length : feed;
    const marked = list !== 'none' && end > start;
    if (marked) count++;
    found.push({ start, end, levels: levelsOf(words, { start, end }), mark: !marked ? undefined : list === 'bullet' ? '•' : `${count}.` });
    if (feed < 0) return found;
    start = feed + 1;
  }
}

/** The hard-broken paragraph that an offset stands in. */
export function paragraphAt(words: string, offset: number): Paragraph {
  const feed = words.indexOf('\n', offset);
  const range = { start: offset === 0 ? 0 : words.lastIndexOf('\n', offset - 1) + 1, end: feed < 0 ? words.length : feed };
  return { ...range, levels: levelsOf(words, range) };
}
