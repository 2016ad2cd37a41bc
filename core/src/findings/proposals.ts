/** A proposal. */
import {
  type BlockSettings,
  type Fit,
  type Frame,
  type Job,
  type Splice,
  type Style,
  type Tightened,
  type WordRange,
  restyle,
  scaledBlock,
  tighten,
  updateBlock,
  withBlockSettings,
  withHand,
} from '../job';
import { editWords } from '../wording';

/** Where an edit is carried out: what of a finding says so. */
export interface ProposalPlace {
  blockId?: string;
  sheetId?: string;
}

/** Hand values to state, in 1/1000 em; a change of the block's style, or of some of its letters'; of its words, from the end to the beginning. What a proposal names is carried out in its order. */
export interface ProposalValues {
  hand: readonly { at: number; milliem: number }[];
  style: Partial<Style>;
  ranges: readonly (WordRange & { style: Partial<Style> })[];
  words: readonly Splice[];
  /** Stretches of words to tighten; what of them was tightened before gives way. */
  tighten: readonly Tightened[];
  /** The factor of all sizes and distances of the block; its frame stays. */
  scale: number;
  /** The changes of the block's frame and settings. */
  frame: Partial<Frame>;
  settings: Partial<BlockSettings>;
  /** The changes of the block's fit; nothing where its lines are not fitted. */
  fit: Partial<Fit>;
}

/** The edit of one name. */
export type ProposedEdit<T> = (job: Job, place: ProposalPlace, value: T) => Job;

/** Edits by name; adding one touches `ProposalValues` and a line here. */
export const PROPOSED_EDITS: { readonly [Name in keyof ProposalValues]: ProposedEdit<ProposalValues[Name]> } = {
  hand: (job, { blockId }, values) => (blockId === undefined ? job : values.reduce((next, { at, milliem }) => withHand(next, blockId, at, milliem), job)),
  style: (job, { blockId }, style) => (blockId === undefined ? job : restyle(job, blockId, style)),
  ranges: (job, { blockId }, ranges) =>
    blockId === undefined ? job : ranges.reduce((next, { start, end, style }) => restyle(next, blockId, style, { start, end }), job),
  words: (job, { blockId }, splices) => (blockId === undefined ? job : editWords(job, blockId, splices)),
  tighten: (job, { blockId }, ranges) => (blockId === undefined ? job : updateBlock(job, blockId, (block) => tighten(block, ranges))),
  scale: (job, { blockId }, factor) =>
    blockId === undefined ? job : updateBlock(job, blockId, (block) => ({ ...scaledBlock(block, factor, { xPt: 0, yPt: 0 }), frame: block.frame })),
  frame: (job, { blockId }, frame) => (blockId === undefined ? job : updateBlock(job, blockId, (block) => ({ ...block, frame: { ...block.frame, ...frame } }))),
  settings: (job, { blockId }, settings) => (blockId === undefined ? job : withBlockSettings(job, blockId, settings)),
  fit: (job, { blockId }, fit) =>
    blockId === undefined ? job : updateBlock(job, blockId, (block) => (block.fit ? { ...block, fit: { ...block.fit, ...fit } } : block)),
};

export type Proposal = Partial<ProposalValues>;

/** Carries out a finding's proposal. */
export function acceptFinding(job: Job, finding: ProposalPlace & { proposal?: Proposal }): Job {
  const { proposal = {} } = finding;
  return Object.entries(proposal).reduce((next, [name, value]) => {
    const edit = PROPOSED_EDITS[name as keyof ProposalValues] as ProposedEdit<unknown>;
    return edit(next, finding, value);
  }, job);
}

/**
 * Carries out the proposals of several findings: from the end of the words to their beginning, so that none moves the next. Of two that
 * would change the same letters the first one holds.
 */
export function acceptFindings(job: Job, findings: readonly (ProposalPlace & { at: number; proposal?: Proposal })[]): Job {
  /** Where the words of a block begin to be new. */
  const changed = new Map<string | undefined, number>();
  return [...findings]
    .sort((a, b) => b.at - a.at)
    .reduce((next, finding) => {
      const splices = finding.proposal?.words ?? [];
      const free = changed.get(finding.blockId) ?? Number.POSITIVE_INFINITY;
      if (splices.some(({ end }) => end > free)) return next;
      if (splices.length > 0) changed.set(finding.blockId, Math.min(...splices.map(({ start }) => start)));
      return acceptFinding(next, finding);
    }, job);
}
