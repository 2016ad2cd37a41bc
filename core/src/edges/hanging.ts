/** Marks that hang outside an edge, so that letters align with letters. */
import type { HangKind } from '../job';

/** The marks that are told by the character alone. */
const MARKS: Readonly<Record<'quotes' | 'points' | 'dashes', RegExp>> = {
  quotes: /^["'“”‘’„‚«»‹›`´′″]$/,
  points: /^[.,:;…·]$/,
  dashes: /^[-\u00ad\u2010-\u2015]$/,
};
/** The signs that begin an item of a list where a blank follows. */
const BULLET = /^[•*‣◦▪–—-]\s/;
/** A number with its point or bracket, as typists begin the items of a list. */
const NUMBER = /^\d{1,3}[.)](?=\s)/;

const KINDS = ['quotes', 'points', 'dashes'] as const;
const hangingKindOf = (character: string): HangKind | undefined => KINDS.find((kind) => MARKS[kind].test(character));

/**
 * The kinds of the marks that hang before a line, one a character, blanks between them and the letters included.
 * @param begins true where the line begins its paragraph: only there are bullets and numbers those of a list.
 * @returns nothing where no letter follows.
 */
export function hangingBefore(text: string, begins: boolean): HangKind[] {
  const found: HangKind[] = [];
  const number = begins ? NUMBER.exec(text)?.[0].length : undefined;
  if (number !== undefined) for (let i = 0; i < number; i++) found.push('numbers');
  for (let i = found.length; i < text.length; i++) {
    const character = text.charAt(i);
    const before = found[found.length - 1];
    const bullet = begins && BULLET.test(text.slice(i, i + 2));
    const kind: HangKind | undefined = /\s/.test(character)
      ? before === 'bullets' || before === 'numbers'
        ? before
        : undefined
      : bullet
        ? 'bullets'
        : hangingKindOf(character);
    if (kind === undefined) return found;
    found.push(kind);
  }
  return [];
}

/** The kinds of the marks that hang behind a line, the outermost first. @returns nothing where no letter stands before them. */
export function hangingBehind(text: string): HangKind[] {
  const found: HangKind[] = [];
  for (let i = text.length - 1; i >= 0; i--) {
    const character = text.charAt(i);
    const kind = character === '*' ? 'bullets' : hangingKindOf(character);
    if (kind === undefined) return found;
    found.push(kind);
  }
  return [];
}
