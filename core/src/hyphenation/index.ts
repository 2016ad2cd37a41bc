/** Where words may be divided, by the patterns of their language: off unless somebody asks for it. */
import type { Splice } from '../job';

interface Patterns {
  hyphenateSync(text: string, options?: { hyphenChar?: string; minWordLength?: number }): string;
}

/** The languages whose patterns are kept, each loaded when it is first wanted. */
const PATTERNS: Readonly<Record<string, () => Promise<unknown>>> = {
  da: () => import('hyphen/da'),
  de: () => import('hyphen/de'),
  en: () => import('hyphen/en-gb'),
  'en-us': () => import('hyphen/en-us'),
  es: () => import('hyphen/es'),
  fi: () => import('hyphen/fi'),
  fr: () => import('hyphen/fr'),
  it: () => import('hyphen/it'),
  nl: () => import('hyphen/nl'),
  pl: () => import('hyphen/pl'),
  pt: () => import('hyphen/pt'),
  sv: () => import('hyphen/sv'),
};

/** Shorter words are not divided. */
const LEAST_LETTERS = 6;
const SOFT_HYPHEN = '\u00ad';

/** The patterns for a language (BCP 47), English where nothing was said; undefined where there are none. */
function patternsOf(language: string | null): (() => Promise<unknown>) | undefined {
  const tag = (language ?? 'en').toLowerCase();
  return PATTERNS[tag] ?? PATTERNS[tag.split('-', 1)[0] ?? ''];
}

/** True where words of a language can be divided. */
export const canDivide = (language: string | null): boolean => patternsOf(language) !== undefined;

const isPatterns = (value: unknown): value is Patterns => typeof value === 'object' && value !== null && 'hyphenateSync' in value;

/**
 * The edits that mark where words may be divided, with soft hyphens, from the end of the words to their beginning. Words that have marks of
 * their own keep those alone. @returns nothing for a language without patterns.
 */
export async function divisions(words: string, language: string | null): Promise<Splice[]> {
  const load = patternsOf(language);
  if (!load) return [];
  const loaded = await load();
  const patterns = isPatterns(loaded) ? loaded : (loaded as { default: unknown }).default;
  if (!isPatterns(patterns)) return [];
  const splices: Splice[] = [];
  for (const { 0: word, index } of words.matchAll(/[\p{L}\p{M}]+(?:\u00ad[\p{L}\p{M}]+)*/gu)) {
    if (word.length < LEAST_LETTERS || word.includes(SOFT_HYPHEN)) continue;
    let at = 0;
    for (const part of patterns.hyphenateSync(word, { hyphenChar: SOFT_HYPHEN, minWordLength: LEAST_LETTERS }).split(SOFT_HYPHEN)) {
      if (at > 0) splices.push({ start: index + at, end: index + at, insert: SOFT_HYPHEN });
      at += part.length;
    }
  }
  return splices.reverse();
}

/** The edits that take all such marks away. */
export const withoutDivisions = (words: string): Splice[] =>
  [...words.matchAll(/\u00ad/g)].map(({ index }): Splice => ({ start: index, end: index + 1, insert: '' })).reverse();
