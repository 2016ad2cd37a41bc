/** Blanks: characters without ink that words are set apart by. */

const SPACE = /^\p{Zs}$/u;

/** True for a character that is a word space or another blank without ink. */
export function isSpace(character: string): boolean {
  return character === ' ' || (character > '~' && SPACE.test(character)) || character === '\t';
}

/** Word space opens between words: at the space and the no-break space, not at blanks of fixed width (CSS Text 3, word-separator characters). */
export const isWordSpace = (character: string): boolean => character === ' ' || character === '\u00a0';

/**
 * Controls that show nothing and take no room: joiners, marks of direction, soft hyphens, zero-width spaces, variation selectors
 * (Unicode, Default_Ignorable_Code_Point).
 */
/** No character below shows nothing but the soft hyphen: by far the most text is answered by this alone. */
const BEYOND_LATIN = /\u00ad|[^\u0020-\u02ff]/;
const INVISIBLE = /\p{Default_Ignorable_Code_Point}/u;

/** True for text with characters that show nothing: nothing stands between them and their neighbours. */
export const hasInvisible = (text: string): boolean => BEYOND_LATIN.test(text) && INVISIBLE.test(text);

/** A place where a word may be divided; it shows a hyphen where a line ends behind it. */
export const SOFT_HYPHEN = '\u00ad';

/** The offset before the blanks that end `text.slice(start, end)`. */
export function trimEnd(text: string, start: number, end: number): number {
  let at = end;
  while (at > start && isSpace(text.charAt(at - 1))) at--;
  return at;
}
