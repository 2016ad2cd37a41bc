/** Letter case as a setting: the words stay as typed, and what is shown of them knows where it came from. */
import type { FaceInstance } from '../face';
import type { Style, StyledRange, WordRange } from '../job';

/** A stretch of words with what is shown of it. */
export interface ShownRange extends StyledRange {
  /** The text shaped in place of the words; absent where it is the words themselves. */
  shown?: string;
  /** For each code unit shown, the offset in the words it stands for. */
  from?: number[];
}

const IN_WORD = /[\p{L}\p{N}\p{M}]/u;
const APOSTROPHE = /['’]/;

/** The height of small capitals over that of capitals where a face has none of its own: a little over its x-height, within these limits. */
const LEAST_REDUCED = 0.68;
const MOST_REDUCED = 0.86;
const ABOVE_X_HEIGHT = 1.06;

/** True where a face draws small capitals itself. */
export const hasSmallCaps = ({ face }: FaceInstance): boolean => face.features.includes('smcp');

/** Size of reduced capitals over the type size. */
export function reducedShare({ metrics }: FaceInstance): number {
  return Math.min(MOST_REDUCED, Math.max(LEAST_REDUCED, (ABOVE_X_HEIGHT * metrics.xHeight) / metrics.capHeight));
}

/** A styled range as its case shows it; one range unless capitals have to be reduced. */
export function showCase(words: string, range: StyledRange, instance: FaceInstance, language?: string): ShownRange[] {
  const { start, end, style } = range;
  const own = { words, language };
  switch (style.case) {
    case 'typed':
      return [range];
    case 'capitals':
      return [shownAs(own, range, CHANGES.capitals)];
    case 'title':
      return [shownAs(own, range, CHANGES.title)];
    case 'small':
      if (hasSmallCaps(instance)) return [{ start, end, style: { ...style, features: { ...style.features, smcp: 1 } } }];
      return reduced(own, range, reducedShare(instance));
  }
}

/** The case form of a letter. */
type CaseChange = (letter: string, at: number, own: Words) => string;
const CHANGES: Readonly<Record<'capitals' | 'title', CaseChange>> = {
  capitals: (letter, _at, { language }) => letter.toLocaleUpperCase(language),
  title: (letter, at, { words, language }) => {
    if (beginsWord(words, at)) return titleCase(letter, language);
    // The Dutch ij is one letter.
    return isDutch(language) && letter === 'j' && /i/i.test(words.charAt(at - 1)) && beginsWord(words, at - 1) ? 'J' : letter;
  },
};

/** Words and the language they are in (BCP 47). */
interface Words {
  words: string;
  language: string | undefined;
}

const isDutch = (language: string | undefined): boolean => language === 'nl' || language?.startsWith('nl-') === true;

/** Words as their case shows them. Small capitals are lower case for the font to draw, or have been reduced to smaller capitals. */
export function shownWords(own: Words, range: WordRange, style: Pick<Style, 'case' | 'features'>): string {
  const text = own.words.slice(range.start, range.end);
  if (style.case === 'typed' || (style.case === 'small' && style.features['smcp'] === 1)) return text;
  return changed(own, range, CHANGES[style.case === 'title' ? 'title' : 'capitals']).shown;
}

/** True at the first letter of a word. An apostrophe belongs to a word only behind a letter: elsewhere it is a quote. */
function beginsWord(words: string, at: number): boolean {
  const before = words.charAt(at - 1);
  return !IN_WORD.test(before) && !(APOSTROPHE.test(before) && IN_WORD.test(words.charAt(at - 2)));
}

/** Letters that are two, one of them a capital (Unicode, Lt). */
const TITLE_LETTERS: Readonly<Record<string, string>> = { ǆ: 'ǅ', ǉ: 'ǈ', ǌ: 'ǋ', ǳ: 'ǲ' };

/** A letter as it begins a word in title case: of several capitals only the first (Unicode, Titlecase_Mapping). */
function titleCase(letter: string, language: string | undefined): string {
  const [first = '', ...rest] = letter.toLocaleUpperCase(language);
  return TITLE_LETTERS[letter] ?? first + rest.join('').toLocaleLowerCase(language);
}

function shownAs(own: Words, range: StyledRange, change: CaseChange): ShownRange {
  return { ...range, ...changed(own, range, change) };
}

function changed(own: Words, { start, end }: WordRange, change: CaseChange): { shown: string; from: number[] } {
  const { words } = own;
  let shown = '';
  const from: number[] = [];
  for (let at = start; at < end;) {
    const letter = String.fromCodePoint(words.codePointAt(at) ?? 0);
    const made = change(letter, at, own);
    for (let i = 0; i < made.length; i++) from.push(made.length === letter.length ? at + i : at);
    shown += made;
    at += letter.length;
  }
  return { shown, from };
}

/** Blanks and signs: they are as large as the letters they follow. */
const SIGN = /^[^\p{L}\p{N}]$/u;

/** Lower-case stretches as smaller capitals, the rest as they are. */
function reduced(own: Words, { start, end, style }: StyledRange, share: number): ShownRange[] {
  const { words, language } = own;
  const ranges: ShownRange[] = [];
  const small: Style = { ...style, sizePt: style.sizePt * share };
  const isLower = (letter: string): boolean => letter !== letter.toLocaleUpperCase(language);
  let from = start;
  let lower: boolean | undefined;
  const close = (to: number): void => {
    if (to === from) return;
    const range = { start: from, end: to, style: lower ? small : style };
    ranges.push(lower ? shownAs(own, range, CHANGES.capitals) : range);
    from = to;
  };
  for (let at = start; at < end;) {
    const letter = String.fromCodePoint(words.codePointAt(at) ?? 0);
    if (!SIGN.test(letter)) {
      const isNow = isLower(letter);
      if (lower !== undefined && isNow !== lower) close(at);
      lower = isNow;
    }
    at += letter.length;
  }
  close(end);
  return ranges;
}
