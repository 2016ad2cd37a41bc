/** What is found on a sheet, and what a rule is. Plain data, so that it can cross from worker to page. */
import type { Block, Job, Style } from '../job';
import { setHand, setStyle } from '../job';
import type { BlockSetting, GapLedger } from '../setting';

/** How much it matters: worth a look, worth mending, must not go out like this. */
export const SEVERITIES = ['notice', 'fault', 'severe'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** An edit that mends a finding: hand values to state, or a change of the block's style. */
export interface Proposal {
  hand?: readonly { at: number; milliem: number }[];
  style?: Partial<Style>;
}

export interface Finding {
  rule: string;
  /** The need of the craft it serves, such as `K4`. */
  need: string;
  blockId: string;
  /** Where: the gap before this offset, or 0 for the whole block. */
  at: number;
  severity: Severity;
  /** Size on the sheet times deviation, in points: what the eye meets first ranks first. */
  visiblePt: number;
  /** The letters or the value it is about, and what is wrong with it. */
  subject: string;
  message: string;
  /** What the proposal changes, in 1/1000 em. */
  changeMilliem?: number;
  proposal?: Proposal;
}

/** One block as rules look at it. */
export interface Inspected {
  block: Block;
  setting: BlockSetting;
  /** The ledgers of all gaps, line by line. */
  lines: readonly (readonly GapLedger[])[];
  limits: TrackingLimits;
}

/** How far copy can be tightened unseen, until it shows, until it is wrong: each at or below the one before, in 1/1000 em. */
export interface TrackingLimits {
  caution: number;
  strong: number;
  out: number;
}

/** Where tracking begins to show unless somebody says otherwise. */
export const TRACKING_LIMITS: TrackingLimits = { caution: -15, strong: -30, out: -50 };

/** A rule: adding one touches its own file and the table in `rules.ts`. */
export interface Rule {
  id: string;
  need: string;
  /** The pass whose count it adds to. */
  pass: 'tracking' | 'kerning';
  name: string;
  look: (inspected: Inspected) => Omit<Finding, 'rule' | 'need' | 'blockId'>[];
}

/** The letters of a gap as people read them. */
export function pairOf(block: Block, { left, right }: Pick<GapLedger, 'left' | 'right'>): string {
  return block.words.slice(left.start, left.end) + block.words.slice(right.start, right.end);
}

/** Carries out a finding's proposal. */
export function acceptFinding(job: Job, { blockId, proposal }: Finding): Job {
  let next = job;
  for (const { at, milliem } of proposal?.hand ?? []) next = setHand(next, blockId, at, milliem);
  return proposal?.style ? setStyle(next, blockId, proposal.style) : next;
}
