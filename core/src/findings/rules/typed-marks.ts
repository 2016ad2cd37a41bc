/** Marks as a typewriter has them, and spaces that are missing or too many: each kind a definition, each place a finding with its fix. */
import type { FaceInstance } from '../../face';
import { type Splice, styleAt } from '../../job';
import type { Severity } from '../finding';
import type { Rule } from '../rule';

/** A kind of mistyped mark. */
interface TypedMark {
  id: string;
  name: string;
  message: string;
  severity: Severity;
  /** Where it is, in order, and what belongs there. @param language the first part of a BCP 47 tag. */
  find(words: string, language: string): Splice[];
}

/** Outer and inner quotation marks, opening and closing. */
interface Quotes {
  outer: readonly [string, string];
  inner: readonly [string, string];
}

const NARROW = '\u202f';
const ENGLISH: Quotes = { outer: ['“', '”'], inner: ['‘', '’'] };
const LOW_HIGH: Quotes = { outer: ['„', '“'], inner: ['‚', '‘'] };
const LOW_CLOSING: Quotes = { outer: ['„', '”'], inner: ['‚', '’'] };
const SAME: Quotes = { outer: ['”', '”'], inner: ['’', '’'] };
const ANGLED: Quotes = { outer: ['«', '»'], inner: ['“', '”'] };
const FRENCH: Quotes = { outer: [`«${NARROW}`, `${NARROW}»`], inner: ['“', '”'] };

/** Quotation marks by language (Unicode CLDR, delimiters); English ones elsewhere. */
const QUOTES: Readonly<Record<string, Quotes>> = {
  ...Object.fromEntries(['de', 'cs', 'sk', 'sl', 'bg', 'is', 'lt', 'et'].map((language) => [language, LOW_HIGH])),
  ...Object.fromEntries(['pl', 'hu', 'ro', 'hr'].map((language) => [language, LOW_CLOSING])),
  ...Object.fromEntries(['fi', 'sv'].map((language) => [language, SAME])),
  ...Object.fromEntries(['es', 'it', 'pt', 'ca', 'el', 'ru', 'uk', 'no'].map((language) => [language, ANGLED])),
  fr: FRENCH,
};

/** The places of a pattern, each with what belongs there; a pattern without a width is a place between letters. */
const places = (words: string, pattern: RegExp, insert: string | ((match: RegExpExecArray) => string)): Splice[] =>
  [...words.matchAll(pattern)].map((match) => ({
    start: match.index,
    end: match.index + match[0].length,
    insert: typeof insert === 'string' ? insert : insert(match),
  }));

/** The characters before an opening mark. */
const BEFORE_OPENING = /[\s([{‘“„‚«–—-]$/u;
/** Words that begin with an apostrophe, and years without their century. */
const BEGINS_LEFT_OUT = /^(?:tis|twas|til|em|cause|n|\d\ds?)(?![\p{L}\d])/iu;

/** True for a straight mark behind a figure that no such mark before it has opened: feet, inches, minutes, seconds. */
function isPrime(words: string, at: number): boolean {
  const mark = words.charAt(at);
  if (!/\d/.test(words.charAt(at - 1)) || /\p{L}/u.test(words.charAt(at + 1))) return false;
  const before = words.slice(words.lastIndexOf('\n', at - 1) + 1, at).replace(/(?<=[\p{L}])'(?=\p{L})/gu, '');
  const opened = mark === '"' ? before.replace(/\d"/g, '') : before.replace(/\d'/g, '');
  return (opened.split(mark).length - 1) % 2 === 0;
}

function quoteAt(words: string, at: number, quotes: Quotes): string {
  const before = words.slice(Math.max(0, at - 1), at);
  const opens = before === '' || BEFORE_OPENING.test(before);
  if (words.charAt(at) === '"') return quotes.outer[opens ? 0 : 1];
  if (!opens || BEGINS_LEFT_OUT.test(words.slice(at + 1))) {
    // An apostrophe is the same in every language; an inner quotation mark closes where one has been opened.
    const line = words.slice(words.lastIndexOf('\n', at - 1) + 1, at);
    const closes = !/\p{L}/u.test(words.charAt(at + 1)) && /(?:^|[\s([{“„«])'[^']*$/u.test(line);
    return !opens && closes ? quotes.inner[1] : '’';
  }
  return quotes.inner[0];
}

const straight = (words: string, language: string, primes: boolean): Splice[] =>
  places(words, /["']/g, ({ index }) => (primes ? (words.charAt(index) === '"' ? '″' : '′') : quoteAt(words, index, QUOTES[language] ?? ENGLISH))).filter(
    ({ start }) => isPrime(words, start) === primes,
  );

/** French sets these apart by a space that is narrow, before a colon by a whole one (Lexique des règles typographiques). */
const apart = (mark: string): string => (mark === ':' ? '\u00a0' : NARROW);

/** Every kind. Adding one is a line here. */
const MARKS: readonly TypedMark[] = [
  {
    id: 'straight-quotes',
    name: 'Straight quotes and apostrophes',
    message: 'straight quote or apostrophe',
    severity: 'fault',
    find: (words, language) => straight(words, language, false),
  },
  {
    id: 'straight-primes',
    name: 'Straight marks for primes',
    message: 'should be a prime',
    severity: 'fault',
    find: (words, language) => straight(words, language, true),
  },
  {
    id: 'double-space',
    name: 'Double spaces',
    message: 'more than one space',
    severity: 'fault',
    find: (words) => places(words, /(?<=\S) {2,}(?=\S)/g, ' '),
  },
  {
    id: 'hyphens-for-dash',
    name: 'Hyphens meant as dashes',
    message: 'hyphen for a dash',
    severity: 'fault',
    find: (words, language) =>
      [
        ...places(words, /(?<=[^\s-]) ?---? ?(?=[^\s-])/g, language === 'en' ? '—' : ' – '),
        ...places(words, /(?<=[^\s-]) - (?=[^\s-])/g, ' – '),
        // From one figure to another; not dates and numbers of several parts.
        ...places(words, /(?<=(?<![\d\p{L}-])[1-9]\d*)-(?=\d+(?![\d\p{L}-]))/gu, '–'),
      ].sort((a, b) => a.start - b.start),
  },
  {
    id: 'three-points',
    name: 'Three points for an ellipsis',
    message: 'three points for an ellipsis',
    severity: 'notice',
    find: (words) => places(words, /(?<!\.)\.{3}(?!\.)/g, '…'),
  },
  {
    id: 'x-for-times',
    name: 'An x for a multiplication sign',
    message: 'x for a multiplication sign',
    severity: 'fault',
    find: (words) => places(words, /(?<=\d ?)(?<!\b0)x(?= ?\d)/gi, '×'),
  },
  {
    id: 'space-at-mark',
    name: 'Spaces at punctuation',
    message: 'missing or extra space at punctuation',
    severity: 'fault',
    find: (words, language) => {
      const missing = places(words, /(?<=\p{L}[,;])(?=\p{L})/gu, ' ');
      const more =
        language === 'fr'
          ? [
              ...places(words, /(?<=\S) +(?=[,.](?:\s|$))/g, ''),
              ...places(words, /(?<=[\p{L}\d»)"']) ?(?=([;!?])(?:[\s”»]|$))/gu, ([, mark = '']) => apart(mark)),
              ...places(words, /(?<=[\p{L}»)"']) ?(?=(:)(?:\s|$))/gu, ([, mark = '']) => apart(mark)),
            ]
          : places(words, /(?<=\S) +(?=[,.;:!?](?:\s|$))/g, '');
      return [...missing, ...more].sort((a, b) => a.start - b.start);
    },
  },
];

/** The language itself, without region or script; English where nothing is said. */
const primary = (language: string | null): string => (language ?? 'en').split('-', 1)[0] ?? 'en';

/**
 * Smart punctuation for what was just typed: marks that end at the caret, or before the letter there, which tells what was
 * meant. A space that may be left out on purpose is not put in.
 * @param caret behind what was typed. @param language BCP 47.
 * @returns edits from the end of the words to their beginning, and where the caret stands then.
 */
export function helpTyping(words: string, caret: number, language: string | null): { splices: Splice[]; caret: number } {
  const from = Math.max(0, words.lastIndexOf('\n', caret - 1) + 1);
  const line = words.slice(from, caret);
  const taken: Splice[] = [];
  for (const { find } of MARKS) {
    for (const { start, end, insert } of find(line, primary(language))) {
      const [begins, ends] = [from + start, from + end];
      if (words.slice(ends, caret).trim().length > 1 || (begins === ends && insert === ' ') || taken.some((other) => begins < other.end && ends > other.start))
        continue;
      taken.push({ start: begins, end: ends, insert });
    }
  }
  taken.sort((a, b) => b.start - a.start);
  return { splices: taken, caret: taken.reduce((at, { start, end, insert }) => at + insert.length - (end - start), caret) };
}

/** How many letters are shown on both sides of a place. */
const SHOWN = 5;
/** Share of the type size that a mark is to the eye. */
const MARK_SIZE = 0.25;

/** The words around a place, on its own line. */
function around(words: string, { start, end }: Splice): string {
  const from = Math.max(start - SHOWN, words.lastIndexOf('\n', start - 1) + 1, 0);
  const feed = words.indexOf('\n', end);
  return words.slice(from, Math.min(end + SHOWN, feed < 0 ? words.length : feed)).trim();
}

/** True for a face with all of these characters; spaces of any width are made where they are missing. */
const hasAll = (characters: string, instance: FaceInstance): boolean =>
  Array.from(characters).every((character) => /\s/.test(character) || (instance.nominalGlyph(character.codePointAt(0) ?? 0) ?? 0) > 0);

/** The rules of mistyped marks. */
export const TYPED_MARKS: readonly Rule[] = MARKS.map(({ id, name, message, severity, find }) => ({
  id,
  pass: 'words',
  name,
  looksAt: 'block',
  look: ({ block, faces }) =>
    find(block.words, primary(block.language))
      // A mark that the face hasn't got is no fix.
      .filter(({ start, insert }) => hasAll(insert, faces.instance(styleAt(block, Math.min(start, Math.max(0, block.words.length - 1))))))
      .map((splice) => ({
        at: splice.start,
        severity,
        visiblePt: block.style.sizePt * MARK_SIZE,
        subject: around(block.words, splice),
        message,
        proposal: { words: [splice] },
      })),
}));
