/** Blanks: characters without ink that words are set apart by. */

const SPACE = /^\p{Zs}$/u;

/** True for a character that is a word space or another blank without ink. */
export function isSpace(character: string): boolean {
  return character === ' ' || (character > '~' && SPACE.test(character)) || character === '\t';
}

/** The offset before the blanks that end `text.slice(start, end)`. */
export function trimEnd(text: string, start: number, end: number): number {
  let at = end;
  while (at > start && isSpace(text.charAt(at - 1))) at--;
  return at;
}
