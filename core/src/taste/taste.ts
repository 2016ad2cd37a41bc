/**
 * The designer's own hand: how much more or less than is proposed they close or open, by kind of pair. Learned from what they do with
 * proposals; it knows kinds of sides, never letters (docs/spacing.md, "The designer's own hand"). Values in 1/1000 em.
 */
import type { SideKind } from '../spacing';
import type { Decided, Taste } from './schema';

/** A hand of which nothing is known. */
export const NO_TASTE: Taste = { on: true, kinds: {} };

/** Before so many decisions in all nothing of them counts. */
export const LEAST_DECISIONS = 20;
/** Proposals under this say nothing about amounts. */
const LEAST_ASKED = 8;
/** A decision is some multiple of the proposal within these limits: what is farther off is about something else. */
const LEAST_MULTIPLE = -0.5;
const MOST_MULTIPLE = 3;
/** A hand is no steadier than this. */
const STEADY = 3;
/** A kind's amount counts where it departs from 1 by more than this many standard errors. */
const SURE = 1.5;
/** Amounts stay inside these limits. */
const LEAST_AMOUNT = 0.4;
const MOST_AMOUNT = 1.8;
/** Of a kind no more decisions than this are remembered: older ones fade, since tastes change. */
const REMEMBERED = 120;

/** A kind of pair: the sides that face each other, whichever comes first. */
export type PairKind = string;

/** The kind of a pair; undefined where a side has no ink. */
export function pairKind(left: SideKind | undefined, right: SideKind | undefined): PairKind | undefined {
  if (left === undefined || right === undefined) return undefined;
  return [left, right].sort().join(' to ');
}

/** A designer's decision on a proposal: took it, changed it, or silenced it. */
export interface Decision {
  kind: PairKind;
  proposedMilliem: number;
  chosenMilliem: number;
}

/** A hand after one more decision. */
export function decided(taste: Taste, { kind, proposedMilliem, chosenMilliem }: Decision): Taste {
  const multiple = chosenMilliem / proposedMilliem;
  if (!(Math.abs(proposedMilliem) >= LEAST_ASKED) || !(multiple >= LEAST_MULTIPLE && multiple <= MOST_MULTIPLE)) return taste;
  const known: Decided = taste.kinds[kind] ?? { decisions: 0, asked: 0, given: 0, spread: 0 };
  const kept = known.decisions >= REMEMBERED ? 1 - 1 / REMEMBERED : 1;
  const one: Decided = {
    decisions: Math.min(REMEMBERED, known.decisions + 1),
    asked: known.asked * kept + proposedMilliem ** 2,
    given: known.given * kept + proposedMilliem * chosenMilliem,
    spread: known.spread * kept + chosenMilliem ** 2,
  };
  return { ...taste, kinds: { ...taste.kinds, [kind]: one } };
}

/** How many decisions were made in all. */
export const decisionsOf = ({ kinds }: Taste): number => Object.values(kinds).reduce((sum, { decisions }) => sum + decisions, 0);

/** The factor for proposals of a kind of pair; 1 while too little is known. */
export function amountOf(taste: Taste, kind: PairKind | undefined): number {
  const known = kind === undefined ? undefined : taste.kinds[kind];
  if (!taste.on || !known || known.asked === 0 || decisionsOf(taste) < LEAST_DECISIONS) return 1;
  const { decisions, asked, given, spread } = known;
  // Least squares through the origin, and its standard error.
  const amount = given / asked;
  const rest = Math.max(0, spread - amount * given) / Math.max(1, decisions - 1);
  const error = Math.sqrt(Math.max(rest, STEADY ** 2) / asked);
  if (Math.abs(amount - 1) < SURE * error) return 1;
  return Math.max(LEAST_AMOUNT, Math.min(MOST_AMOUNT, 1 + ((amount - 1) * decisions) / (decisions + 1)));
}

/** The amounts that count, by kind: all that proposals know of a hand. */
export const amountsOf = (taste: Taste): Readonly<Record<PairKind, number>> =>
  Object.fromEntries(
    Object.keys(taste.kinds)
      .map((kind): [PairKind, number] => [kind, amountOf(taste, kind)])
      .filter(([, amount]) => amount !== 1),
  );

/** One kind as it is shown: how many decisions, and what they amount to in percent more or less; 0 while that doesn't count. */
export interface TasteLine {
  kind: PairKind;
  decisions: number;
  percent: number;
}

/** All that is known of a hand, kinds with most decisions first. */
export const tasteLines = (taste: Taste): TasteLine[] =>
  Object.entries(taste.kinds)
    .map(([kind, { decisions }]) => ({ kind, decisions, percent: Math.round(100 * (amountOf({ ...taste, on: true }, kind) - 1)) }))
    .sort((a, b) => b.decisions - a.decisions || a.kind.localeCompare(b.kind));
