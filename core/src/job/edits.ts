/** Edits: pure functions from a job to a job. What an edit leaves alone keeps its identity, so that views can compare by reference. */
import type { Leading } from '../units';
import { roundMilliem } from '../units';
import { isGraphemeBoundary } from './graphemes';
import { ruleAt } from './pair-rules';
import { sameStyle, styleAt, styledRanges } from './runs';
import type { Block, Job, JobKind, Run, Sheet, WordRange } from './schema';
import type { Style } from './style';

/** Limits of a stored value in 1/1000 em, as the schema states them. */
const MILLIEM_MIN = -1000;
const MILLIEM_MAX = 5000;

const clampMilliem = (value: number): number => roundMilliem(Math.min(MILLIEM_MAX, Math.max(MILLIEM_MIN, value)));

/** The block with an identifier, or undefined. */
export function findBlock(job: Pick<Job, 'sheets'>, blockId: string): Block | undefined {
  for (const sheet of job.sheets) {
    const block = sheet.blocks.find(({ id }) => id === blockId);
    if (block) return block;
  }
  return undefined;
}

/** Replaces one block by what `change` makes of it; the job itself comes back where nothing changed. */
export function updateBlock(job: Job, blockId: string, change: (block: Block) => Block): Job {
  const before = findBlock(job, blockId);
  if (!before) return job;
  const after = change(before);
  if (after === before) return job;
  return {
    ...job,
    sheets: job.sheets.map((sheet) =>
      sheet.blocks.includes(before) ? { ...sheet, blocks: sheet.blocks.map((block) => (block === before ? after : block)) } : sheet,
    ),
  };
}

/** The other blocks of a block's part. */
export const blocksOfPart = (job: Pick<Job, 'sheets'>, { id, part }: Pick<Block, 'id' | 'part'>): Block[] =>
  part === null ? [] : job.sheets.flatMap(({ blocks }) => blocks.filter((block) => block.part === part && block.id !== id));

/** Lets a block say its own words from now on. */
export const leavePart = (job: Job, blockId: string): Job => updateBlock(job, blockId, (block) => (block.part === null ? block : { ...block, part: null }));

/** Changes the style of a whole block, or of a range of its words only. */
export function restyle(job: Job, blockId: string, change: Partial<Style>, range?: WordRange): Job {
  return updateBlock(job, blockId, (block) => {
    if (!range) return sameStyle(block.style, { ...block.style, ...change }) ? block : { ...block, style: { ...block.style, ...change } };
    return restyleRange(block, change, range);
  });
}

/** A stretch of words with what changes of its style. */
export interface StyleChange extends WordRange {
  change: Partial<Style>;
}

/** A block with a range of its words in another style. */
export const restyleRange = (block: Block, change: Partial<Style>, range: WordRange): Block => restyleRanges(block, [{ ...range, change }]);

const NONE: Partial<Style> = {};

const same = (a: unknown, b: unknown): boolean => a === b || (typeof a === 'object' && JSON.stringify(a) === JSON.stringify(b));

/** The properties in which a style departs from another; the same object where all do, so that caches keep. */
function departingFrom(base: Style, style: Partial<Style>): Partial<Style> {
  const entries = Object.entries(style);
  const departing = entries.filter(([key, value]) => !same(value, base[key as keyof Style]));
  return departing.length === entries.length ? style : Object.fromEntries(departing);
}

/**
 * A block with stretches of its words in other styles: runs are cut where stretches end, and joined where neighbours became equal. In one
 * pass, so that thousands of letters cost no more than the block.
 * @param changes sorted and apart.
 */
export function restyleRanges(block: Block, changes: readonly StyleChange[]): Block {
  const runs: Run[] = [];
  const add = (start: number, end: number, style: Partial<Style>): void => {
    if (start >= end) return;
    const departs = departingFrom(block.style, style);
    if (Object.keys(departs).length === 0) return;
    const last = runs[runs.length - 1];
    if (last?.end === start && JSON.stringify(last.style) === JSON.stringify(departs)) last.end = end;
    else runs.push({ start, end, style: departs });
  };
  let r = 0;
  const take = (from: number, to: number, change: Partial<Style> = NONE): void => {
    let at = from;
    while (r < block.runs.length && (block.runs[r]?.end ?? 0) <= from) r++;
    for (let i = r; i < block.runs.length; i++) {
      const run = block.runs[i];
      if (!run || run.start >= to) break;
      add(at, run.start, change);
      const start = Math.max(at, run.start);
      at = Math.min(to, run.end);
      add(start, at, change === NONE ? run.style : { ...run.style, ...change });
    }
    add(at, to, change);
  };
  let at = 0;
  for (const { start, end, change } of changes) {
    take(at, start);
    take(start, end, change);
    at = end;
  }
  take(at, block.words.length);
  return { ...block, runs };
}

/** The letter space that word space follows, in 1/1000 em. */
export interface WordSpaceLink {
  /** The face's own word space. */
  ownMilliem: number;
  /** The distance it puts between its letters. */
  letterMilliem: number;
}

/** Tracks a whole block or a range of its words. @param link takes the word space along. */
export function retrack(job: Job, blockId: string, trackingMilliem: number, range?: WordRange, link?: WordSpaceLink): Job {
  const block = findBlock(job, blockId);
  if (!block) return job;
  const style = range ? styleAt(block, range.start) : block.style;
  const change = link ? { trackingMilliem, wordSpaceMilliem: linkedWordSpace(style, trackingMilliem, link) } : { trackingMilliem };
  return restyle(job, blockId, change, range);
}

/**
 * Adds to the tracking of a whole block or a range of its words, its runs' own tracking included.
 * @param byMilliem 1/1000 em. @param link takes the word space along.
 */
export function nudgeTracking(job: Job, blockId: string, byMilliem: number, range?: WordRange, link?: WordSpaceLink): Job {
  return updateBlock(job, blockId, (block) => {
    const tracked = nudgeSpace(block, 'trackingMilliem', byMilliem, range);
    if (!link) return tracked;
    const before = range ? styleAt(block, range.start) : block.style;
    const wordSpace = linkedWordSpace(before, before.trackingMilliem + byMilliem, link);
    return nudgeSpace(tracked, 'wordSpaceMilliem', wordSpace - before.wordSpaceMilliem, range);
  });
}

/** Adds to the word space of a whole block or a range of its words. @param byMilliem 1/1000 em. */
export function nudgeWordSpace(job: Job, blockId: string, byMilliem: number, range?: WordRange): Job {
  return updateBlock(job, blockId, (block) => nudgeSpace(block, 'wordSpaceMilliem', byMilliem, range));
}

/** A block with tracking or word space added to, in 1/1000 em, that of its runs included; or a range of its words only. */
export function nudgeSpace(block: Block, key: 'trackingMilliem' | 'wordSpaceMilliem', byMilliem: number, range?: WordRange): Block {
  if (range) {
    return restyleRanges(
      block,
      styledRanges(block, range.start, range.end).map(({ start, end, style }) => ({ start, end, change: { [key]: clampMilliem(style[key] + byMilliem) } })),
    );
  }
  return {
    ...block,
    style: { ...block.style, [key]: clampMilliem(block.style[key] + byMilliem) },
    runs: block.runs.map((run) => {
      const own = run.style[key];
      return own === undefined ? run : { ...run, style: { ...run.style, [key]: clampMilliem(own + byMilliem) } };
    }),
  };
}

/**
 * Word space that keeps its proportion to letter space while tracking changes, in 1/1000 em.
 * Letters that are tracked until hardly any white is left no longer count: word space would grow beyond all bounds when their tracking is undone.
 */
export function linkedWordSpace(
  style: Pick<Style, 'trackingMilliem' | 'wordSpaceMilliem'>,
  trackingMilliem: number,
  { ownMilliem, letterMilliem }: WordSpaceLink,
): number {
  const seen = (wordSpace: number, tracking: number): number => ownMilliem + wordSpace + 2 * tracking;
  const white = (tracking: number): number => Math.max(1, letterMilliem / 3, letterMilliem + tracking);
  const before = white(style.trackingMilliem);
  const after = white(trackingMilliem);
  return clampMilliem((seen(style.wordSpaceMilliem, style.trackingMilliem) * after) / before - ownMilliem - 2 * trackingMilliem);
}

/** States leading of its own for the line that begins at a letter; 0 takes it away. In points. */
export function withLineLeading(job: Job, blockId: string, at: number, byPt: number): Job {
  return updateBlock(job, blockId, (block) => {
    const others = block.lineLeading.filter((own) => own.at !== at);
    if (byPt === 0 && others.length === block.lineLeading.length) return block;
    return { ...block, lineLeading: byPt === 0 ? others : [...others, { at, byPt }].sort((a, b) => a.at - b.at) };
  });
}

/** States a block's leading. */
export function relead(job: Job, blockId: string, leading: Leading): Job {
  return updateBlock(job, blockId, (block) => ({ ...block, leading }));
}

/** The hand value stated for the gap before code unit `at` itself, 0 where there is none; pair rules are not asked. */
export function handAt(block: Block, at: number): number {
  return block.hand.find((kern) => kern.at === at)?.milliem ?? 0;
}

/** The hand value a gap has: its own, else its pair rule's, else 0. */
export function handOf(job: Job, blockId: string, at: number): number {
  const own = findBlock(job, blockId)?.hand.find((kern) => kern.at === at);
  return own?.milliem ?? ruleAt(job, blockId, at)?.milliem ?? 0;
}

/**
 * States the hand kerning of a gap. A value equal to what the gap has anyway (its pair rule's, else 0) is not kept.
 * Values are rounded to 0.1 and kept within what the schema allows. A place that is not between two letters leaves the job as it is.
 */
export function withHand(job: Job, blockId: string, at: number, milliem: number): Job {
  const anyway = ruleAt(job, blockId, at)?.milliem ?? 0;
  return updateBlock(job, blockId, (block) => {
    if (at < 1 || at >= block.words.length || !isGraphemeBoundary(block.words, at)) return block;
    const value = clampMilliem(milliem);
    const own = block.hand.find((kern) => kern.at === at);
    if (own ? value === own.milliem : value === anyway) return block;
    const others = block.hand.filter((kern) => kern.at !== at);
    const hand = value === anyway ? others : [...others, { at, milliem: value }].sort((a, b) => a.at - b.at);
    return { ...block, hand };
  });
}

/** Takes away the hand value of a gap; its pair rule, if it has one, holds again. */
export function clearHand(job: Job, blockId: string, at: number): Job {
  return updateBlock(job, blockId, (block) => {
    const hand = block.hand.filter((kern) => kern.at !== at);
    return hand.length === block.hand.length ? block : { ...block, hand };
  });
}

/** Opens (positive) or closes the gap before code unit `at`, in 1/1000 em. */
export function nudgeHand(job: Job, blockId: string, at: number, byMilliem: number): Job {
  return withHand(job, blockId, at, handOf(job, blockId, at) + byMilliem);
}

/** The prefix for the names of reverted changes of a first cut, which stand among what is silenced. */
export const REVERTED_PREFIX = 'cut.';

/** Silences a finding of a rule at a place (0: of the whole block) as intended, or lets it speak again. */
export function withSilenced(job: Job, blockId: string, rule: string, at: number, intended: boolean): Job {
  return updateBlock(job, blockId, (block) => {
    const others = block.intended.filter((known) => known.rule !== rule || known.at !== at);
    if (!intended) return others.length === block.intended.length ? block : { ...block, intended: others };
    return { ...block, intended: [...others, { rule, at }] };
  });
}

/** Renames the job; an empty title leaves it as it is. */
export function retitle(job: Job, title: string): Job {
  const trimmed = title.trim().slice(0, 200);
  return trimmed === '' || trimmed === job.title ? job : { ...job, title: trimmed };
}

/** Says what a job is for. */
export const withKind = (job: Job, kind: JobKind): Job => (kind === job.kind ? job : { ...job, kind });

/** Says what language a job's words are in; blocks may have another. @param language BCP 47, null for none. */
export const withLanguage = (job: Job, language: string | null): Job => (language === job.language ? job : { ...job, language });

/** Adds a block on top of a sheet. */
export function addBlock(job: Job, sheetId: string, block: Block): Job {
  return { ...job, sheets: job.sheets.map((sheet): Sheet => (sheet.id === sheetId ? { ...sheet, blocks: [...sheet.blocks, block] } : sheet)) };
}

/** Takes a block off its sheet. */
export function removeBlock(job: Job, blockId: string): Job {
  return {
    ...job,
    sheets: job.sheets.map((sheet) =>
      sheet.blocks.some(({ id }) => id === blockId) ? { ...sheet, blocks: sheet.blocks.filter(({ id }) => id !== blockId) } : sheet,
    ),
  };
}
