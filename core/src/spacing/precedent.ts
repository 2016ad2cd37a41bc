/**
 * Precedents: what designers gave to letters that are drawn like these. A letter is described by its outline alone, without its
 * name or code point, and found among the shapes that the letters of many families fall into; what their designers kerned between
 * any two of those shapes, on the mean, is remembered (docs/spacing.md). Lengths in em.
 */
import { knownOf, valueAt } from '../base';
import { BAND, BANDS, DEEPEST, type GlyphProfile, LOWEST, type GlyphSide } from './profile';
import type { Rhythm } from './rhythm';

/** Where in its pair a letter stands: the one on the left shows its right side. */
export type PairSide = 'left' | 'right';

/** Shapes that letters fall into, and the kerning between them as the product of two tables. */
export interface Precedents {
  /** `DESCRIBED` numbers for each shape. */
  readonly shapes: ArrayLike<number>;
  /** `RANK` numbers for each shape: the kerning between two, in 1/1000 em, is the sum of the products of the left one's and the right one's. */
  readonly factors: Readonly<Record<PairSide, ArrayLike<number>>>;
  /** For each shape: its kerning with a word space, left or right of it, in 1/1000 em. */
  readonly words: Readonly<Record<PairSide, ArrayLike<number>>>;
}

/** How many numbers remember what a shape is kerned like. */
export const RANK = 24;

/** Heights a side is described at: shares of a quarter em below the baseline, of the x-height, of what rises from there to the capitals; above, in em. */
const BELOW = [-0.8, -0.45, -0.12];
const TO_X = [0.06, 0.186, 0.311, 0.437, 0.563, 0.689, 0.814, 0.94];
const TO_CAPITALS = [0.1, 0.3, 0.5, 0.7, 0.9];
const ABOVE = [0.03, 0.1];
const HEIGHTS = BELOW.length + TO_X.length + TO_CAPITALS.length + ABOVE.length;
/** Both sides, how far the letter reaches, how wide it is, and its bearings. */
export const DESCRIBED = 2 * HEIGHTS + 6;
/** A side is followed no deeper than this from its foremost ink. */
const FOLLOWED = 0.35;
/** How much reach and width tell of a letter beside one height of a side; no more of them than `MOST_REACH`. */
const REACH = 0.7;
const WIDTH = 0.35;
const MOST_REACH = 0.38;

/** How deep a side lies at a height; between the middles of bands, the mean of theirs. */
function depthAt(side: GlyphSide, height: number): number {
  const at = Math.max(0, Math.min(BANDS - 1.001, (height - LOWEST) / BAND - 0.5));
  const band = Math.floor(at);
  return (side.seen[band] ?? DEEPEST) * (band + 1 - at) + (side.seen[band + 1] ?? DEEPEST) * (at - band);
}

/**
 * Describes a letter.
 * @param left its left side, where it stands otherwise than on the line of the letter it faces.
 */
export function describe(profile: GlyphProfile, { xHeight, capHeight }: Rhythm, left = profile.left): Float64Array {
  const out = new Float64Array(DESCRIBED);
  const rise = Math.max(0.02, capHeight - xHeight);
  const heights = [
    ...BELOW.map((share) => share * 0.25),
    ...TO_X.map((share) => share * xHeight),
    ...TO_CAPITALS.map((share) => xHeight + share * rise),
    ...ABOVE.map((more) => capHeight + more),
  ];
  const bearings = [profile.advance - profile.leantRight, profile.leantLeft];
  [profile.right, left].forEach((side, s) => {
    heights.forEach((height, i) => {
      out[s * HEIGHTS + i] = Math.max(0, Math.min(FOLLOWED, depthAt(side, height) - (bearings[s] ?? 0)));
    });
  });
  [
    REACH * (profile.top - capHeight),
    REACH * (profile.top - xHeight),
    REACH * profile.bottom,
    WIDTH * (profile.leantRight - profile.leantLeft),
    bearings[1] ?? 0,
    bearings[0] ?? 0,
  ].forEach((value, i) => {
    out[2 * HEIGHTS + i] = Math.max(-MOST_REACH, Math.min(MOST_REACH, value));
  });
  return out;
}

/** A side that the pair doesn't see tells less of a letter than the one it shows. */
const HIDDEN = 0.25;
/** Shapes this much farther away than the nearest, as the root of the mean square over what is described, count 0.6 of it. */
const SPREAD = 0.013;
/** How many shapes a letter is likened to. */
const LIKENED = 6;

/** The shapes a letter is like, nearest first: how much each counts, 1 in all; and the mean square distance of the nearest. */
export interface Likeness {
  shapes: readonly { at: number; weight: number }[];
  distance: number;
}

/** Likens a letter to shapes. @param shapes `DESCRIBED` numbers each. @param place which of its sides is seen. */
export function liken(description: ArrayLike<number>, place: PairSide, shapes: ArrayLike<number>): Likeness {
  const seenFrom = place === 'left' ? 0 : HEIGHTS;
  const nearest: { at: number; distance: number }[] = [];
  for (let at = 0; at * DESCRIBED < shapes.length; at++) {
    let seen = 0;
    let hidden = 0;
    for (let i = 0; i < DESCRIBED; i++) {
      const square = (valueAt(description, i) - valueAt(shapes, at * DESCRIBED + i)) ** 2;
      if (i < 2 * HEIGHTS && (i < seenFrom || i >= seenFrom + HEIGHTS)) hidden += square;
      else seen += square;
    }
    const distance = (seen + HIDDEN * hidden) / DESCRIBED;
    if (nearest.length === LIKENED && distance >= (nearest[LIKENED - 1]?.distance ?? 0)) continue;
    let slot = nearest.findIndex((other) => distance < other.distance);
    if (slot < 0) slot = nearest.length;
    nearest.splice(slot, 0, { at, distance });
    nearest.length = Math.min(nearest.length, LIKENED);
  }
  const least = nearest[0]?.distance ?? 0;
  const weights = nearest.map(({ distance }) => Math.exp((least - distance) / (2 * SPREAD ** 2)));
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  return { shapes: nearest.map(({ at }, i) => ({ at, weight: (weights[i] ?? 0) / all })), distance: least };
}

/** The precedents of a letter: how they are kerned, and how like they are. */
export interface Recalled {
  factors: Float64Array;
  /** Kerning with a word space, in 1/1000 em. */
  word: number;
  distance: number;
}

/** The precedents of letters described like this. */
export function recall(description: ArrayLike<number>, place: PairSide, { shapes, factors, words }: Precedents): Recalled {
  const likeness = liken(description, place, shapes);
  const mean = new Float64Array(RANK);
  let word = 0;
  for (const { at, weight } of likeness.shapes) {
    for (let i = 0; i < RANK; i++) mean[i] = valueAt(mean, i) + weight * valueAt(factors[place], at * RANK + i);
    word += weight * valueAt(words[place], at);
  }
  return { factors: mean, word, distance: likeness.distance };
}

/** Precedents count this much beside the networks where letters are just like the shapes, and less the less they are. */
const SHARE = 0.5;
/** Pairs whose letters are this far from the nearest shapes, together, as `SPREAD` is, count 0.6 of it. */
const FAMILIAR = 0.065;

/** How much precedents of shapes at a distance count, 1 where a letter is just like them. */
const familiarity = (distance: number): number => Math.exp(-distance / (2 * FAMILIAR ** 2));

/** The kerning designers gave to letters like these, in 1/1000 em, and its weight beside the networks' answer. */
export function precedent(left: Recalled, right: Recalled): { milliem: number; share: number } {
  let milliem = 0;
  for (let i = 0; i < RANK; i++) milliem += valueAt(left.factors, i) * valueAt(right.factors, i);
  return { milliem, share: SHARE * familiarity(left.distance + right.distance) };
}

/** The networks' answer and what there is of precedents, weighed; in 1/1000 em. */
export function withPrecedent(answered: number, { milliem, share }: { milliem: number; share: number }): number {
  return answered + share * (milliem - answered);
}

type Places = Partial<Record<PairSide, Recalled>>;
const recalled = new WeakMap<Precedents, WeakMap<GlyphProfile, WeakMap<Rhythm, Places>>>();

/** The precedents of a letter on the line; worked out once for each place. */
function recallLevel(profile: GlyphProfile, rhythm: Rhythm, place: PairSide, precedents: Precedents): Recalled {
  const byProfile = knownOf(recalled, precedents, () => new WeakMap<GlyphProfile, WeakMap<Rhythm, Places>>());
  const byRhythm = knownOf(byProfile, profile, () => new WeakMap<Rhythm, Places>());
  const places = knownOf(byRhythm, rhythm, (): Places => ({}));
  return (places[place] ??= recall(describe(profile, rhythm), place, precedents));
}

/** A letter of a pair, as it is looked at here. */
interface Seen {
  profile: GlyphProfile;
  rhythm: Rhythm;
}

/** The precedent of a pair. @param facing the left side of the right letter, as it is placed. */
export function precedentOf(left: Seen, right: Seen, facing: GlyphSide, precedents: Precedents): { milliem: number; share: number } {
  return precedent(
    recallLevel(left.profile, left.rhythm, 'left', precedents),
    facing === right.profile.left
      ? recallLevel(right.profile, right.rhythm, 'right', precedents)
      : recall(describe(right.profile, right.rhythm, facing), 'right', precedents),
  );
}

/** The kerning designers gave to a letter like this beside a word space, in 1/1000 em. @param place where it stands: left of the space, or right of it. */
export function wordPrecedentOf({ profile, rhythm }: Seen, place: PairSide, precedents: Precedents): number {
  const { word, distance } = recallLevel(profile, rhythm, place, precedents);
  return word * familiarity(distance);
}
