/** The letters of a font that stand for all of it. */
import type { Face } from '../face';

/** How many letters of a font are looked at, capitals and lower case. */
const FIRST_LETTERS = 52;

/** The font's first letters with case. */
export const casedLettersOf = (face: Face): string[] =>
  face.codePoints
    .map((code) => String.fromCodePoint(code))
    .filter((letter) => /^[\p{Lu}\p{Ll}]$/u.test(letter))
    .slice(0, FIRST_LETTERS);
