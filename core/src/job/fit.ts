/** The defaults of fit, line breaks and edges, and the edits that change them. */
import { type StyleChange, restyleRanges, updateBlock } from './edits';
import type { Breaking, Edges, Fit, HangKind, Justify, Levers, LeverName, Tightened } from './fit-schema';
import { styledRanges } from './runs';
import type { Block, Job, WordRange } from './schema';

/** Lines as full as they can be. */
export const GREEDY: Breaking = { way: 'greedy', shape: 'even' };
/** Word space alone fills justified lines. */
export const PLAIN_JUSTIFY: Justify = { lettersMilliem: 0, width: 0, last: 'natural' };

/** Full for marks at the foot or the head of letters, less for dashes, which have their ink in the middle. */
export const USUAL_HANG: Readonly<Record<HangKind, number>> = { quotes: 1, points: 1, dashes: 0.6, bullets: 1, numbers: 1 };
/** Edges as a designer would have them. */
export const USUAL_EDGES: Edges = { hang: { ...USUAL_HANG }, optical: 1 };

/** Each lever alone, within limits that display lines usually bear. */
const LEVER_LIMITS: Readonly<Record<LeverName, { least: number; most: number }>> = {
  size: { least: 0.25, most: 4 },
  letters: { least: -50, most: 200 },
  words: { least: -120, most: 500 },
  width: { least: 0.95, most: 1.05 },
};
export const LEVER_NAMES: readonly LeverName[] = ['size', 'letters', 'words', 'width'];

/** Levers within their usual limits. @param shares those that are used; the others stay where they are. */
export function leversWith(shares: Partial<Record<LeverName, number>>): Levers {
  const lever = (name: LeverName): Levers[LeverName] => ({ share: shares[name] ?? 0, ...LEVER_LIMITS[name] });
  return { size: lever('size'), letters: lever('letters'), words: lever('words'), width: lever('width') };
}

/** All lines to the frame, by size, from ink to ink. */
export const newFit = (change: Partial<Fit> = {}): Fit => ({
  to: { kind: 'frame' },
  lines: 'all',
  by: leversWith({ size: 1 }),
  ink: true,
  overshoot: 0,
  steps: false,
  even: false,
  height: null,
  ...change,
});

/** A fit whose measures in numbers grow with the block; what it takes from elsewhere stays. */
export const scaledFit = (fit: Fit, by: number): Fit => ({
  ...fit,
  to: fit.to?.kind === 'pt' ? { kind: 'pt', pt: fit.to.pt * by } : fit.to,
  height: fit.height?.kind === 'pt' ? { kind: 'pt', pt: fit.height.pt * by } : fit.height,
});

/** A block with tracking added to stretches of its words, which stay marked as tightened; what was tightened there before goes. */
export function tighten(block: Block, ranges: readonly Tightened[]): Block {
  const others = block.tightened.filter(({ start, end }) => !ranges.some((range) => range.start < end && range.end > start));
  return { ...block, tightened: [...others, ...ranges.filter(({ milliem }) => milliem !== 0)].sort((a, b) => a.start - b.start) };
}

/** Takes tightening off again, of all words of a block or of a stretch. */
export const loosen = (job: Job, blockId: string, range?: WordRange): Job =>
  updateBlock(job, blockId, (block) => {
    const kept = range ? block.tightened.filter(({ start, end }) => start >= range.end || end <= range.start) : [];
    return kept.length === block.tightened.length ? block : { ...block, tightened: kept };
  });

/** Takes a fit off a block. @param plain the block in the values that the fit has come to. */
export const withoutFit = (job: Job, blockId: string, { frame, words, style, runs, lineLeading, lineIndents }: Block): Job =>
  updateBlock(job, blockId, (block) => ({ ...block, frame, words, style, runs, lineLeading, lineIndents, fit: null }));

/** A block as it is set: what was tightened is tracked so. */
export function withTightened(block: Block): Block {
  if (block.tightened.length === 0) return block;
  const changes = block.tightened.flatMap(({ start, end, milliem }): StyleChange[] =>
    styledRanges(block, start, Math.min(end, block.words.length)).map((range) => ({
      start: range.start,
      end: range.end,
      change: { trackingMilliem: range.style.trackingMilliem + milliem },
    })),
  );
  return restyleRanges(block, changes);
}

/** How far the line that begins at a letter stands from where its alignment puts it; 0 takes that away. In points. */
export function withLineIndent(job: Job, blockId: string, at: number, byPt: number): Job {
  return updateBlock(job, blockId, (block) => {
    const others = block.lineIndents.filter((own) => own.at !== at);
    if (byPt === 0 && others.length === block.lineIndents.length) return block;
    return { ...block, lineIndents: byPt === 0 ? others : [...others, { at, byPt }].sort((a, b) => a.at - b.at) };
  });
}

/** A resolved block brings the block whose width its lines are fitted to. */
export interface Beside {
  beside?: Block;
}
