/** First stage: the words of a block become paragraphs, at hard breaks, each with the mark of a list where there is one. */
import type { Block, WordRange } from '../job';
import { type Directions, directionsOf } from './levels';

/** A stretch of words between hard breaks; what breaks belongs to neither side. */
export interface ParagraphRange extends WordRange, Directions {}

/** A paragraph with what stands before it: a bullet or a number, as text. */
export interface MarkedParagraph extends ParagraphRange {
  readonly mark: string | undefined;
}

/** The paragraphs of a block. An empty one has no mark and isn't counted. */
export function paragraphs({ words, paragraph: { list } }: Pick<Block, 'words' | 'paragraph'>): MarkedParagraph[] {
  const found: MarkedParagraph[] = [];
  let start = 0;
  let count = 0;
  for (;;) {
    const feed = nextBreak(words, start);
    const end = feed?.start ?? words.length;
    const marked = list !== 'none' && end > start;
    if (marked) count++;
    found.push({ start, end, ...directionsOf(words, { start, end }), mark: !marked ? undefined : list === 'bullet' ? '•' : `${count}.` });
    if (!feed) return found;
    start = feed.end;
  }
}

/** The hard-broken paragraph that an offset stands in. */
export function paragraphAt(words: string, offset: number): ParagraphRange {
  let start = offset;
  while (start > 0 && !HARD_BREAK.test(words.charAt(start - 1))) start--;
  const range = { start, end: nextBreak(words, offset)?.start ?? words.length };
  return { ...range, ...directionsOf(words, range) };
}

/** The characters that end a line whatever room there is (UAX #14, classes BK, CR, LF and NL): words that come in have line feeds alone, job files may have any. */
const HARD_BREAK = /[\n\v\f\r\u0085\u2028\u2029]/;

/** True for a character that ends a line whatever room there is. */
export const isHardBreak = (character: string): boolean => (character <= '\r' || character >= '\u0085') && HARD_BREAK.test(character);

function nextBreak(words: string, from: number): WordRange | undefined {
  const feed = words.indexOf('\n', from);
  const odd = words.slice(from, feed < 0 ? undefined : feed).search(HARD_BREAK);
  if (odd < 0) return feed < 0 ? undefined : { start: feed, end: feed + 1 };
  const at = from + odd;
  return { start: at, end: at + (words.startsWith('\r\n', at) ? 2 : 1) };
}
