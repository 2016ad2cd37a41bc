/**
 * How a size wants to be tracked: the larger the tighter. The slope is what the designers of faces with an optical-size axis did with
 * the white between their letters from size to size; how much it is for a face comes from the face's own measured white (docs/tracking.md).
 */
import type { FaceInstance } from '../face';
import type { Style } from '../job';
import { measureAnatomy } from './anatomy';
import { type BoundKind, boundKindOf, profileOf } from '../spacing';
import { printSigned } from '../units';

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
/**
 * Capitals open at every size below the largest: by this much at reading size, by nothing where the white is least. Light letters on dark
 * ground open by so much at any size. In 1/1000 em.
 */
const CAPITALS = 15;
const LIGHT_ON_DARK = 6;

/** Width of the smooth bend between the sizes at which capitals open for their size and those at which they don't, in 1/1000 em. */
const BEND = 4;

export interface TrackingAdvice {
  /** For a size in points, in 1/1000 em, a smooth function of the size. */
  at: (sizePt: number) => number;
  /** The tracking for a size and the reasons, in one line. */
  reasonsAt: (sizePt: number) => string;
  /** The size the face's own spacing suits, in points. */
  suitsPt: number;
  /** Mean white beside the face's letters: advance less ink, in 1/1000 em. */
  whiteMilliem: number;
}

/** Why a face whose spacing is part of how it is made is not tracked. */
const LEFT_ALONE: Readonly<Record<BoundKind, string>> = {
  fixed: 'not tracked: fixed pitch',
  pixel: 'not tracked: drawn on a pixel grid',
  joined: 'not tracked: connected script',
};

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
  const bound = boundKindOf(instance);
  if (bound) return { at: () => 0, reasonsAt: () => LEFT_ALONE[bound], suitsPt: READING_PT, whiteMilliem: white };
  const { kind, stem } = measureAnatomy(instance);
  const norm = (kind === 'serif' || kind === 'slab' ? NORM_SERIF : NORM_PLAIN) * Math.max(0.4, 1 - PER_STEM * (stem - TEXT_STEM));
  // A face that is spaced tighter than text faces is drawn for a larger size: its own spacing suits that one.
  const share = Math.min(MOST_SHARE, Math.max(0.8, 1 - BELIEVED * (1 - white / norm)));
  const suitsPt = READING_PT * 2 ** ((1 - share) / PER_DOUBLING);
  const own = whiteShare(suitsPt);
  // Italics reach into each other's boxes: what they have to give is at least half the norm.
  const given = Math.max(white, norm / 2);
  const parts = (sizePt: number): { size: number; capitals: number; light: number } => {
    const bySize = given * (whiteShare(sizePt) / own - 1);
    return {
      // Capitals are never closed for their size; small ones of a face drawn for large sizes open for that too.
      size: capitals ? (bySize + Math.hypot(bySize, BEND)) / 2 : bySize,
      capitals: capitals ? (CAPITALS * (whiteShare(sizePt) - LEAST_SHARE)) / (1 - LEAST_SHARE) : 0,
      light: lightOnDark ? LIGHT_ON_DARK : 0,
    };
  };
  return {
    at: (sizePt) => {
      const { size, capitals: open, light } = parts(sizePt);
      return size + open + light;
    },
    reasonsAt: (sizePt) => {
      const { size, capitals: open, light } = parts(sizePt);
      const said = (milliem: number): string => printSigned(Math.round(milliem));
      const drawnFor = `${Math.round(suitsPt)} pt`;
      return [
        capitals
          ? sizePt < suitsPt
            ? `capitals ${said(open)}, smaller than the ${drawnFor} the face is drawn for ${said(size)}`
            : `capitals ${said(open + size)}`
          : `${sizePt > suitsPt ? 'larger' : 'smaller'} than the ${drawnFor} the face is drawn for ${said(size)}`,
        ...(light > 0 ? [`light on dark ${said(light)}`] : []),
      ].join(', ');
    },
    suitsPt,
    whiteMilliem: white,
  };
}
