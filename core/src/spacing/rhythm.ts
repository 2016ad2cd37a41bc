/**
 * A face's own rhythm: what white its designer puts between straights and rounds, and how generous each letter's side
 * bearings already are. Found by shape alone: no letter, glyph name or code point is looked up, so that a font with any
 * encoding gives the same answers. Lengths in em.
 */
import type { FaceInstance } from '../face';
import { knownOf } from '../base';
import { type GlyphProfile, profileOf } from './profile';
import { isRound, isStraight } from './side-shape';
import { EASE, type Power, offsetForWhite, roughDistance, whiteBetween } from './white';

/** Letters by their measured height: reaching the capitals, or staying at the x-height. */
export type Height = 'tall' | 'short';

/** The face's reference shapes of one height. */
interface ReferenceLetters {
  all: GlyphProfile[];
  straight: GlyphProfile[];
  round: GlyphProfile[];
}

/** White that a gap should have, by the heights of the letters left and right of it. */
export type Targets = Readonly<Record<Height, Readonly<Record<Height, number>>>>;

export interface Rhythm {
  capHeight: number;
  xHeight: number;
  references: Readonly<Record<Height, ReferenceLetters>>;
  targets: Readonly<Record<Power, Targets>>;
  /** True for a face that joins its letters, as written hands do: strokes that leave small letters meet those that enter the next. */
  joined: boolean;
}

/** How many glyphs of a face are looked at for references, and how many references of a height are used. */
const MAX_LOOKED_AT = 1000;
const MAX_REFERENCES = 28;
/** How far a letter may miss the height line and still be of that height: overshoot and a little more. */
const TOLERANCE = 0.035;
/** A stated x-height that fewer letters than this reach is not believed. */
const LEAST_SHORT = 6;

const median = (values: number[]): number => {
  if (values.length === 0) return 0;
  values.sort((a, b) => a - b);
  const middle = values.length >> 1;
  return values.length % 2 === 1 ? (values[middle] ?? 0) : ((values[middle - 1] ?? 0) + (values[middle] ?? 0)) / 2;
};

/** The height a letter counts as. */
export function heightClass({ top }: GlyphProfile, { capHeight, xHeight }: Pick<Rhythm, 'capHeight' | 'xHeight'>): Height {
  return top > (capHeight + xHeight) / 2 ? 'tall' : 'short';
}

const rhythms = new WeakMap<FaceInstance, Rhythm>();

/** The rhythm of a face at its axis position; measured once. */
export const rhythmOf = (instance: FaceInstance): Rhythm => knownOf(rhythms, instance, () => measureRhythm(instance));

function measureRhythm(instance: FaceInstance): Rhythm {
  const standing: GlyphProfile[] = [];
  const small: GlyphProfile[] = [];
  const count = Math.min(MAX_LOOKED_AT, instance.face.glyphCount);
  for (let glyphId = 1; glyphId < count; glyphId++) {
    const profile = profileOf(instance, glyphId);
    if (!profile || profile.advance < 0.1) continue;
    if (Math.abs(profile.bottom) <= TOLERANCE) standing.push(profile);
    if (small.length < MOST_SMALL && isSmall(profile, instance.statedHeights.xHeight / instance.unitsPerEm)) small.push(profile);
  }
  const upTo = (line: number): GlyphProfile[] => standing.filter(({ top }) => Math.abs(top - line) <= TOLERANCE);
  const stated = instance.statedHeights;
  const capHeight = stated.capHeight / instance.unitsPerEm;
  let xHeight = stated.xHeight / instance.unitsPerEm;
  // Some files state an x-height that no letter has: then the height most letters below the capitals reach is taken.
  if (upTo(xHeight).length < LEAST_SHORT) {
    const lines = standing.map(({ top }) => top).filter((top) => top > capHeight * 0.35 && top < capHeight * 0.9);
    const reached = lines.map((line) => ({ line, letters: upTo(line).length })).sort((x, y) => y.letters - x.letters || x.line - y.line)[0];
    if (reached && reached.letters >= LEAST_SHORT) xHeight = reached.line;
  }
  const found: Record<Height, GlyphProfile[]> = { tall: upTo(capHeight), short: xHeight < capHeight - TOLERANCE ? upTo(xHeight) : [] };
  const references = { tall: pick(found.tall), short: pick(found.short) };
  const targets = (power: Power): Targets => ({
    tall: { tall: control(references.tall, references.tall, power), short: control(references.tall, references.short, power) },
    short: { tall: control(references.short, references.tall, power), short: control(references.short, references.short, power) },
  });
  return { capHeight, xHeight, references, targets: { 2: targets(2), 4: targets(4) }, joined: doJoin(small) };
}

function pick(found: readonly GlyphProfile[]): ReferenceLetters {
  const spread = (list: readonly GlyphProfile[], most: number): GlyphProfile[] =>
    list.length <= most
      ? [...list]
      : Array.from({ length: most }, (_, i) => list[Math.floor((i * list.length) / most)]).filter((profile) => profile !== undefined);
  return {
    all: spread(found, MAX_REFERENCES),
    straight: spread(
      found.filter((profile) => isStraight(profile.left, profile) && isStraight(profile.right, profile)),
      8,
    ),
    round: spread(
      found.filter((profile) => isRound(profile.left, profile) && isRound(profile.right, profile)),
      8,
    ),
  };
}

/** White a face can do without references: about what text faces have. */
const FALLBACK: Readonly<Record<Power, number>> = { 2: 0.36, 4: 0.26 };

/** The white the face itself puts between its straights and rounds: median over the kinds of pairs, straights counting twice. */
function control(left: ReferenceLetters, right: ReferenceLetters, power: Power): number {
  const between = (a: readonly GlyphProfile[], b: readonly GlyphProfile[]): number[] => {
    if (a.length === 0 || b.length === 0) return [];
    return [median(a.flatMap((one) => b.map((other) => whiteBetween(one.right, other.left, 0, power))))];
  };
  const straights = between(left.straight, right.straight);
  const kinds = [
    ...straights,
    ...straights,
    ...between(left.straight, right.round),
    ...between(left.round, right.straight),
    ...between(left.round, right.round),
  ];
  if (kinds.length > 0) return median(kinds);
  const any = between(left.all, right.all);
  return any[0] ?? FALLBACK[power];
}

/** How many small letters are put beside each other to see whether a face joins them, of how many first ones. */
const JOINING = 14;
const MOST_SMALL = 28;

/** True for about the height of the small letters: written hands keep no line as exactly as print does. */
function isSmall({ top, bottom }: GlyphProfile, xHeight: number): boolean {
  return top > 0.7 * xHeight && top < 1.35 * xHeight && top - bottom > 0.6 * xHeight && bottom > -0.35 * xHeight;
}

/** True where most of these letters touch the next as they are. */
function doJoin(small: readonly GlyphProfile[]): boolean {
  const some = small.filter((_, i) => small.length <= JOINING || i % Math.ceil(small.length / JOINING) === 0);
  const touching = some.flatMap((left) => some.map((right) => roughDistance(left.right, right.left) <= 0));
  return touching.filter((touches) => touches).length > touching.length / 2;
}

/** The distance that a face puts between its short letters as the eye sees it, near places counting most; in 1/1000 em. */
export const letterSpaceOf = (instance: FaceInstance): number => Math.round(1000 * Math.max(0, rhythmOf(instance).targets[4].short.short - EASE));

/** How far one side of a letter is from the target on the median of all references of a height: what its bearing already does. */
export interface Bearing {
  tall: number;
  short: number;
}

interface Bearings {
  left: Bearing;
  right: Bearing;
}

const bearings = new WeakMap<GlyphProfile, WeakMap<Rhythm, Bearings>>();

/** The bearings of both sides of a letter against the face's references; measured once. */
export function bearingsOf(profile: GlyphProfile, rhythm: Rhythm): Bearings {
  const byRhythm = knownOf(bearings, profile, () => new WeakMap<Rhythm, Bearings>());
  return knownOf(byRhythm, rhythm, () => measureBearings(profile, rhythm));
}

function measureBearings(profile: GlyphProfile, rhythm: Rhythm): Bearings {
  const own = heightClass(profile, rhythm);
  const against = (height: Height, side: 'left' | 'right'): number =>
    median(
      rhythm.references[height].all.map((reference) =>
        side === 'right'
          ? offsetForWhite(profile.right, reference.left, rhythm.targets[4][own][height], 4)
          : offsetForWhite(reference.right, profile.left, rhythm.targets[4][height][own], 4),
      ),
    );
  return {
    left: { tall: against('tall', 'left'), short: against('short', 'left') },
    right: { tall: against('tall', 'right'), short: against('short', 'right') },
  };
}
