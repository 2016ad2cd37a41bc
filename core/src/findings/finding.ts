/** A finding and its proposal. Plain data, so that it can cross from worker to page. */
import type { Block } from '../job';
import type { GapLedger } from '../setting';
import type { PairKind } from '../taste';
import type { Proposal } from './proposals';

/** The passes of the craft: each counts the findings of its own rules. */
export type PassId = 'words' | 'face' | 'tracking' | 'leading' | 'kerning' | 'shift' | 'fit' | 'edges' | 'proof';

/** How much it matters: worth a look, worth fixing, must not go out like this. */
export const SEVERITIES = ['notice', 'fault', 'severe'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** A gap as it stands to a decision: the kind of pair, what it should hold whoever judges, as the designer's hand has it, and what it holds. In 1/1000 em. */
export interface Judged {
  kind: PairKind;
  plainMilliem: number;
  shouldMilliem: number;
  totalMilliem: number;
}

/** A rule's report on a place. */
export interface Found {
  /** The gap before this offset of a block's words, the line that begins there, or 0 for all of what the rule looks at. */
  at: number;
  severity: Severity;
  /** Size on the sheet times deviation, in points: what the eye meets first ranks first. */
  visiblePt: number;
  /** How sure it is, above 0 to 1, which is meant where it is absent. */
  certainty?: number;
  /** The letters or the value it is about, and what is wrong with it. */
  subject: string;
  message: string;
  /** For a gap: what is decided on when the proposal is taken, changed or silenced. */
  judged?: Judged;
  /** The change of the proposal, in 1/1000 em. */
  changeMilliem?: number;
  proposal?: Proposal;
  /** The block it is in, where the rule looks at more than one. */
  blockId?: string;
}

export interface Finding extends Found {
  rule: string;
  /** The pass whose count it adds to, and what the rule is called. */
  pass: PassId;
  name: string;
  sheetId?: string;
  /** True where the rule could not be asked: it may have found more. */
  failed?: boolean;
}

/** True for what the designer has silenced in its block. */
export const isSilenced = ({ intended }: Pick<Block, 'intended'>, { rule, at }: Finding): boolean =>
  intended.some((known) => known.rule === rule && known.at === at);

/** The letters of a gap as people read them. */
export function pairOf(block: Block, { left, right }: Pick<GapLedger, 'left' | 'right'>): string {
  return block.words.slice(left.start, left.end) + block.words.slice(right.start, right.end);
}

/** How words begin, as a finding names their block. */
export const firstWords = (words: string): string => words.trim().split('\n', 1)[0]?.slice(0, 24) ?? '';

const rank = ({ visiblePt, certainty = 1 }: Finding): number => visiblePt * certainty;

/** Most visible first, as far as it is sure. */
export const byVisibility = (a: Finding, b: Finding): number => rank(b) - rank(a) || a.at - b.at;
