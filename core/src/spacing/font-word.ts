/** How far a font's own kerning can be believed, measured on its own letters. */
import { type Face, ownKerning } from '../face';
import { knownOf } from '../remember';
import { type FontWord, type Opinions, wordOf } from './evidence';
import { profileOf } from './profile';
import type { ShapeModel } from './learned';
import { proposeKerning } from './proposal';
import { rhythmOf } from './rhythm';

/** How many letters of a font are looked at, capitals and lower case; and which share of their pairs: every twelfth. */
const LETTERS = 52;
const EVERY = 12;

const words = new WeakMap<Face, FontWord>();

/** How far a font's kerning is to be believed; measured once, at its default position. */
export const fontWordOf = (face: Face): FontWord => knownOf(words, face, () => measureWord(face));

/** The same, measured. @param model another than the shipped one. */
export const measureWord = (face: Face, model?: ShapeModel): FontWord => wordOf(opinionsOf(face, model));

const kerningSpaces = new WeakMap<Face, boolean>();

/** True for a font that has pairs of its letters with the word space; looked up once. */
export const kernsSpaces = (face: Face): boolean =>
  knownOf(kerningSpaces, face, () => lettersOf(face).some((letter) => [`${letter} `, ` ${letter}`].some((pair) => ownKerning(face.instance(), pair) !== 0)));

/** The font's first letters with case. */
const lettersOf = (face: Face): string[] =>
  face.codePoints
    .map((code) => String.fromCodePoint(code))
    .filter((letter) => /^[\p{Lu}\p{Ll}]$/u.test(letter))
    .slice(0, LETTERS);

/** What the font holds and what the shapes propose, over pairs of the font's first letters with case, whatever script they are of. */
function opinionsOf(face: Face, model?: ShapeModel): Opinions {
  const instance = face.instance();
  const rhythm = rhythmOf(instance);
  const letters = lettersOf(face).flatMap((letter) => {
    const profile = profileOf(instance, instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0);
    return profile ? [{ letter, side: { profile, rhythm } }] : [];
  });
  // Steps that share no factor with the number skipped meet every letter on both sides.
  return letters.flatMap((left, i) =>
    letters.flatMap((right, j) =>
      (i * 7 + j * 5) % EVERY === 0
        ? [{ font: ownKerning(instance, left.letter + right.letter), shape: proposeKerning(left.side, right.side, undefined, model).milliem }]
        : [],
    ),
  );
}
