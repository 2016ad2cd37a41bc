/**
 * The proposal: the kerning a pair should have, from its measured shapes alone. Small networks, trained on the kerning that
 * designers built into open families, answer for letters, others for what stands beside figures and signs; beside them counts what
 * those designers gave to letters of like shapes. Small answers are taken to zero.
 * Method, training, figures and limits: docs/spacing.md.
 */
import { valueAt } from '../base';
import { FEATURE_COUNT, type GapSide, beyondBearing, measurePair, targetOf } from './pair-measures';
import { type Neighbours, inkDistance } from './ink-distance';
import { BASE_LEVEL, facedSide } from './profile';
import type { Learned, ShapeModel } from './learned';
import { type PairSide, precedentOf, withPrecedent, wordPrecedentOf } from './precedent';
import { heightClass } from './rhythm';
import { LETTERS, PRECEDENTS, SIGNS } from './weights';

/** Inputs are standardised and cut here, so that a strange glyph can't lead far outside what was learned. */
export const INPUT_LIMIT = 3;
/**
 * Answers smaller than this are none, in 1/1000 em, for letters and beside signs: most pairs are left alone by their designers.
 * Chosen on the training families (docs/spacing.md).
 */
const SMALL = { letters: 3.5, signs: 5 };
/** A proposal smaller than this would be seen by nobody, in 1/1000 em. */
const LEAST = 2;
/** Proposals stay inside these limits, in 1/1000 em. */
const LARGEST = 200;
/** Inks that overlap are taken apart by no more than this: what hangs over farther is meant to. In 1/1000 em. */
const MOST_OPENED = 400;
/** A proposal closes two inks to no less than this, in em; and parts signs and marks to as much. */
export const LEAST_DISTANCE = 0.012;
/** Inks beside an accent cross where they overlap by more than this, in em. */
const HAIR = 0.005;
/** The largest strength that kerning by shape can have. */
export const MAX_STRENGTH = 2;

/**
 * Answers fitted to many houses are drawn towards none; evenness is judged against this multiple of them, which puts the highest
 * mean evenness at 1.0 times the designers' own kerning (npm run bench:spacing).
 */
const UNSHRUNK = 1.25;
/** A proposal this near to the target meets it, in 1/1000 em. */
const REACHED = 3;

/** Ink lower than this share of the x-height is a mark: point, comma, hyphen, quote. */
const MARK_SHARE = 0.6;
/** A mark whose middle is lower than this share of the x-height stands low. */
const LOW_SHARE = 0.75;
/** Before low marks this share is what was learned, the rest the closed form's (docs/spacing.md): closing beyond `t`, at strength `s`. */
const MARK_LEARNED = 0.6;
const MARK_T = 8;
const MARK_S = 0.63;

/** True for a glyph that is small as a whole. */
const isMark = ({ profile, rhythm }: GapSide): boolean => profile.top - profile.bottom < MARK_SHARE * rhythm.xHeight;

/** True for a mark that stands low: point, comma, hyphen. */
const isLowMark = (side: GapSide): boolean => isMark(side) && side.profile.top + side.profile.bottom < 2 * LOW_SHARE * side.rhythm.xHeight;

/** An answer without small values, in 1/1000 em: it is drawn towards zero by what its size lets doubt (the non-negative garrote of Breiman, 1995). */
export const withoutSmall = (answered: number, part: keyof typeof SMALL): number =>
  Math.abs(answered) <= SMALL[part] ? 0 : answered * (1 - (SMALL[part] / answered) ** 2);

/** A proposal as it is given: a whole number, and none where it would not be seen or could not be told. In 1/1000 em. */
export function settled(kept: number): number {
  const whole = Math.round(kept);
  return Math.abs(whole) >= LEAST ? whole : 0;
}

/**
 * The proposal before a low mark.
 * @param kept the answer without small values.
 * @param beyond the offset to the target less what the mark's own bearing does already, in 1/1000 em.
 */
export function beforeMark(kept: number, beyond: number): number {
  return MARK_LEARNED * kept + (1 - MARK_LEARNED) * (beyond < -MARK_T ? MARK_S * (beyond + MARK_T) : 0);
}

/** The model that proposals are made with. */
const SHIPPED: ShapeModel = { letters: LETTERS, signs: SIGNS, precedents: PRECEDENTS };

/** The networks' answer for standardised measures, in 1/1000 em. */
function answer(measures: Float64Array, { networks }: Learned): number {
  let total = 0;
  for (const weights of networks) {
    const hidden = (weights.length - 1) / (FEATURE_COUNT + 2);
    const biases = hidden * FEATURE_COUNT;
    const outputs = biases + hidden;
    let out = valueAt(weights, outputs + hidden);
    for (let unit = 0; unit < hidden; unit++) {
      let sum = valueAt(weights, biases + unit);
      const base = unit * FEATURE_COUNT;
      for (let i = 0; i < FEATURE_COUNT; i++) sum += valueAt(weights, base + i) * valueAt(measures, i);
      out += valueAt(weights, outputs + unit) * Math.tanh(sum);
    }
    total += out;
  }
  return (100 * total) / networks.length;
}

/** Brings measures to the range the networks were trained on; in place. */
function standardise(measures: Float64Array, { means, deviations }: Learned): void {
  for (let i = 0; i < FEATURE_COUNT; i++) {
    const value = (valueAt(measures, i) - valueAt(means, i)) / (deviations[i] ?? 1);
    measures[i] = Math.max(-INPUT_LIMIT, Math.min(INPUT_LIMIT, value));
  }
}

/** The measures of a gap. All values in 1/1000 em of the left letter, relative to the bare advance. */
export interface ShapeProposal {
  /** Kerning to apply; a whole number. */
  milliem: number;
  /** The kerning wanted before small answers become zero, undiminished. */
  wantedMilliem: number;
  /** The offset at which the gap's white would meet the face's own target; negative where the gap is open. */
  offTargetMilliem: number;
  /** Why the proposal does not go all the way to the target. */
  limit: ProposalLimit;
  /** The white the face's rhythm wants between letters of these heights. */
  targetMilliem: number;
  /**
   * The least kerning that keeps the inks apart; undefined where no strength that kerning can have would bring them together, and
   * where letters join.
   */
  apartMilliem: number | undefined;
}

/** Kerning by shape at a strength, never so that inks touch; none at no strength. In 1/1000 em. */
export function atStrength({ milliem, apartMilliem }: Pick<ShapeProposal, 'milliem' | 'apartMilliem'>, strength: number): number {
  const wanted = milliem * strength;
  return apartMilliem === undefined || strength === 0 ? wanted : Math.max(wanted, apartMilliem);
}

/**
 * `reached`: it does. `touching`: the inks would come too near. `custom`: designers leave shapes like these part of their white,
 * and leave small differences alone. `largest`: proposals end there. `joined`: strokes join the letters, which are left alone.
 */
export type ProposalLimit = 'reached' | 'touching' | 'custom' | 'largest' | 'joined';

/**
 * Proposes kerning for a pair. The same letters always get the same answer.
 * @param model another than the shipped one, to see what it would propose.
 */
export function proposeKerning(left: GapSide, right: GapSide, standing = BASE_LEVEL, model = SHIPPED): ShapeProposal {
  const facing = { left: left.profile.right, right: facedSide(left.profile, right.profile, standing) };
  if (areJoined(left, right, () => inkDistance({ left: left.profile, right: right.profile, facing, standing })))
    return {
      milliem: 0,
      wantedMilliem: 0,
      offTargetMilliem: 0,
      limit: 'joined',
      targetMilliem: Math.round(1000 * targetOf(left, right)),
      apartMilliem: undefined,
    };
  const features = new Float64Array(FEATURE_COUNT);
  const offset = measurePair({ left, right, facing }, features);
  const beyond = 1000 * beyondBearing(features, 'right');
  const part = left.sign || right.sign || isMark(left) || isMark(right) ? 'signs' : 'letters';
  standardise(features, model[part]);
  const answered = withPrecedent(answer(features, model[part]), precedentOf(left, right, facing.right, model.precedents));
  const wanted = Math.max(-LARGEST, Math.min(LARGEST, answered));
  const answeredKept = withoutSmall(wanted, part);
  const kept = settled(Math.max(-LARGEST, Math.min(LARGEST, !left.sign && isLowMark(right) ? beforeMark(answeredKept, beyond) : answeredKept)));
  const apartMilliem = apart({ left: left.profile, right: right.profile, facing, standing }, Math.min(kept, 0), mayPart(left, right));
  const milliem = atStrength({ milliem: kept, apartMilliem }, 1);
  const offTargetMilliem = Math.round(offset * 1000) || 0;
  let limit: ProposalLimit = 'custom';
  if (Math.abs(milliem - offTargetMilliem) <= REACHED) limit = 'reached';
  else if (milliem !== kept) limit = 'touching';
  else if (Math.abs(wanted) >= LARGEST) limit = 'largest';
  return {
    milliem,
    wantedMilliem: Math.max(Math.round(Math.max(-LARGEST, Math.min(LARGEST, UNSHRUNK * answered))) || 0, apartMilliem ?? -LARGEST),
    offTargetMilliem,
    limit,
    targetMilliem: Math.round(1000 * targetOf(left, right)),
    apartMilliem,
  };
}

/**
 * Proposes kerning between a letter and a word space: what the letter's open side takes off the white between words.
 * @param place where the letter stands: left of the space, or right of it. @returns 1/1000 em, a whole number.
 */
export function proposeBesideSpace(letter: GapSide, place: PairSide, model = SHIPPED): number {
  if (letter.rhythm.joined) return 0;
  return settled(withoutSmall(wordPrecedentOf(letter, place, model.precedents), 'signs'));
}

/** True for two letters of a written hand that its strokes join: small ones, and whatever touches as it is. */
function areJoined(left: GapSide, right: GapSide, distance: () => number): boolean {
  const { rhythm } = left;
  if (!rhythm.joined || rhythm !== right.rhythm) return false;
  const small = heightClass(left.profile, rhythm) === 'short' && heightClass(right.profile, rhythm) === 'short';
  return (small && !left.sign && !right.sign) || distance() <= 0;
}

/** How deep two inks must overlap for a proposal to part them, in em; undefined where none does. */
function mayPart(left: GapSide, right: GapSide): number | undefined {
  // What touches in a face that joins its letters is meant to.
  if (left.rhythm.joined) return undefined;
  // Points and commas stand under what hangs over them.
  if (isLowMark(right)) return undefined;
  if (left.sign || right.sign || isMark(left) || isMark(right)) return -LEAST_DISTANCE;
  return left.accented || right.accented ? HAIR : undefined;
}

/**
 * The least kerning at which two inks stand apart, a whole number of 1/1000 em; those that stand nearer as they are come no nearer.
 * @param closing the most that kerning at full strength would close, 0 or less. @param parting inks that overlap by more than this are opened, in em.
 * @returns undefined where they stand apart whatever the strength, and where what hangs over can't be parted.
 */
function apart(pair: Neighbours, closing: number, parting: number | undefined): number | undefined {
  const distance = (milliem: number): number => inkDistance(pair, milliem / 1000);
  let close = closing * MAX_STRENGTH;
  if (distance(close) >= LEAST_DISTANCE) return undefined;
  const drawn = distance(0);
  let open = 0;
  if (drawn < LEAST_DISTANCE) {
    if (parting === undefined || drawn >= -parting) return 0;
    open = MOST_OPENED;
    // What can't be parted hangs over on purpose.
    if (distance(open) < LEAST_DISTANCE) return undefined;
  }
  while (open - close > 1) {
    const middle = Math.floor((close + open) / 2);
    if (distance(middle) >= LEAST_DISTANCE) open = middle;
    else close = middle;
  }
  return open;
}
