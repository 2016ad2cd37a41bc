/** How far a font's own kerning can be believed, measured on its own letters. */
import { type Face, ownKerning } from '../face';
import { knownOf } from '../base';
import { boundKindOf } from './face-kind';
import { casedLettersOf } from './first-letters';
import { type FontWord, type Opinions, wordOf } from './evidence';
import { profileOf } from './profile';
import type { ShapeModel } from './learned';
import { proposeKerning } from './proposal';
import { rhythmOf } from './rhythm';

/** Which share of the pairs of a font's letters is looked at: every twelfth. */
const EVERY = 12;

/** For a face whose spacing is fixed by its design: only the font counts. */
const ONLY: FontWord = { kerned: 1, alone: 1, only: true };

/** The script whose letters the models have learned (ISO 15924). */
const LEARNED = 'Latn';

const words = new WeakMap<Face, FontWord>();
const unlearnedWords = new WeakMap<Face, FontWord>();

/**
 * How far a font's kerning is to be believed; measured once, at its default position.
 * @param script of the letters it kerns (ISO 15924); Latin, or none in particular, where it is left out.
 */
export function fontWordOf(face: Face, script = LEARNED): FontWord {
  const word = knownOf(words, face, () => measureWord(face));
  return script === LEARNED ? word : knownOf(unlearnedWords, face, () => ({ ...word, unlearned: true }));
}

/** The same, measured. @param model another than the shipped one. */
export const measureWord = (face: Face, model?: ShapeModel): FontWord => (boundKindOf(face.instance()) ? ONLY : wordOf(opinionsOf(face, model)));

const kerningSpaces = new WeakMap<Face, boolean>();

/** True for a font that has pairs of its letters with the word space; looked up once. */
export const kernsSpaces = (face: Face): boolean =>
  knownOf(kerningSpaces, face, () =>
    casedLettersOf(face).some((letter) => [`${letter} `, ` ${letter}`].some((pair) => ownKerning(face.instance(), pair) !== 0)),
  );

/** The opinions of font and shapes on pairs of the font's first letters with case, whatever script they are of. */
function opinionsOf(face: Face, model?: ShapeModel): Opinions {
  const instance = face.instance();
  const rhythm = rhythmOf(instance);
  const letters = casedLettersOf(face).flatMap((letter) => {
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
