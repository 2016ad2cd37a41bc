/**
 * How a size wants to be tracked: the larger the tighter. The slope is what the designers of faces with an optical-size axis did with
 * the white between their letters from size to size; how much it is for a face comes from the face's own measured white (docs/tracking.md).
 */
import type { FaceInstance } from '../face';
import type { Style } from '../job';
import { measureAnatomy } from './anatomy';
import { profileOf } from '../spacing';

/** Size at which text faces are drawn to be read, in points. */
const READING_PT = 14;
/** Share of the white that goes with every doubling of the size. */
const PER_DOUBLING = 0.1;
/** The white never falls below this share of that at reading size, nor rises above the other. */
const LEAST_SHARE = 0.35;
const MOST_SHARE = 1.15;
/** Mean white of text faces at reading size, in 1/1000 em: with serifs, and without. */
const NORM_SERIF = 56;
const NORM_PLAIN = 88;
/** Heavier letters leave less white: the norm shrinks by this share for every em of stem over that of text faces. */
const PER_STEM = 2.5;
const TEXT_STEM = 0.09;
/** Only part of a face's departure from the norm is taken for a size it was drawn for. */
const BELIEVED = 0.5;
/** Capitals want this much more at reading size, light letters on dark ground this much, in 1/1000 em. */
const CAPITALS = 15;
const LIGHT_ON_DARK = 6;

export interface TrackingAdvice {
  /** For a size in points, in 1/1000 em, rounded to whole numbers. */
  at: (sizePt: number) => number;
  /** The size the face's own spacing suits, in points. */
  suitsPt: number;
  /** Mean white beside the face's letters: advance less ink, in 1/1000 em. */
  whiteMilliem: number;
}

/** The white at a size over that at reading size. */
export function whiteShare(sizePt: number): number {
  return Math.min(MOST_SHARE, Math.max(LEAST_SHARE, 1 - PER_DOUBLING * Math.log2(sizePt / READING_PT)));
}

/** Mean of advance less ink over the lower case (capitals where there is none), in 1/1000 em. */
export function meanWhite(instance: FaceInstance): number {
  const of = (letters: string): number[] =>
    letters.split(' ').flatMap((letter) => {
      const glyph = instance.nominalGlyph(letter.codePointAt(0) ?? 0);
      const profile = glyph === undefined ? undefined : profileOf(instance, glyph);
      return profile ? [1000 * (profile.advance - (profile.leantRight - profile.leantLeft))] : [];
    });
  const whites = of('a b c d e f g h i j k l m n o p q r s t u v w x y z');
  const found = whites.length > 5 ? whites : of('A B C D E F G H I J K L M N O P Q R S T U V W X Y Z');
  return found.length === 0 ? NORM_PLAIN : found.reduce((sum, white) => sum + white, 0) / found.length;
}

/** True for words that are set in capitals, as typed or by their style. */
export const inCapitals = (words: string, letterCase: Style['case']): boolean =>
  letterCase === 'capitals' || (words === words.toUpperCase() && words !== words.toLowerCase());

/** Advice for a face at its axis position. */
export function adviseTracking(instance: FaceInstance, { capitals, lightOnDark }: { capitals: boolean; lightOnDark: boolean }): TrackingAdvice {
  const white = meanWhite(instance);
  const { kind, stem } = measureAnatomy(instance);
  const norm = (kind === 'serif' || kind === 'slab' ? NORM_SERIF : NORM_PLAIN) * Math.max(0.4, 1 - PER_STEM * (stem - TEXT_STEM));
  // A face that is spaced tighter than text faces is drawn for a larger size: its own spacing suits that one.
  const share = Math.min(MOST_SHARE, Math.max(0.8, 1 - BELIEVED * (1 - white / norm)));
  const suitsPt = READING_PT * 2 ** ((1 - share) / PER_DOUBLING);
  const own = whiteShare(suitsPt);
  // Italics reach into each other's boxes: what they have to give is at least half the norm.
  const given = Math.max(white, norm / 2);
  return {
    at: (sizePt) => {
      const extra = (capitals ? CAPITALS : 0) * whiteShare(sizePt) + (lightOnDark ? LIGHT_ON_DARK : 0);
      return Math.round(given * (whiteShare(sizePt) / own - 1) + extra) || 0;
    },
    suitsPt,
    whiteMilliem: white,
  };
}
