/** Edits of whole blocks: place, size, order. Pure functions from a job to a job. */
import { findBlock, restyle, updateBlock } from './edits';
import { scaledFit } from './fit';
import { scalePath } from './path';
import { styleAt } from './runs';
import type { Leading } from '../units';
import type { Block, Frame, Job, Run } from './schema';
import type { Style } from './style';
import { sheetOf } from './sheets';

/** The settings a block states once for all its words. */
export type BlockSettings = Pick<
  Block,
  | 'grow'
  | 'vertical'
  | 'trim'
  | 'rotationDeg'
  | 'locked'
  | 'align'
  | 'paragraph'
  | 'leading'
  | 'language'
  | 'path'
  | 'ends'
  | 'fit'
  | 'breaking'
  | 'justify'
  | 'edges'
>;

/** Changes settings of a block. */
export function withBlockSettings(job: Job, blockId: string, change: Partial<BlockSettings>): Job {
  return updateBlock(job, blockId, (block) => ({ ...block, ...change }));
}

const free = (block: Block): boolean => !block.locked;

/** Moves blocks; locked ones stay. In points. */
export function moveBlocks(job: Job, blockIds: readonly string[], xPt: number, yPt: number): Job {
  if (xPt === 0 && yPt === 0) return job;
  return blockIds.reduce(
    (next, id) =>
      updateBlock(next, id, (block) => (free(block) ? { ...block, frame: { ...block.frame, xPt: block.frame.xPt + xPt, yPt: block.frame.yPt + yPt } } : block)),
    job,
  );
}

/** States the frame of a block; the words reflow. A locked block stays as it is. */
export function resizeFrame(job: Job, blockId: string, frame: Frame): Job {
  return updateBlock(job, blockId, (block) => (free(block) ? { ...block, frame } : block));
}

/**
 * Scales words and frame together: sizes, stated leading, indents and paragraph spaces; values in 1/1000 em stay, since they
 * grow with the size.
 * @param origin the point of the sheet that stays where it is, in points.
 */
export function scaleBlock(job: Job, blockId: string, factor: number, origin: { xPt: number; yPt: number }): Job {
  return updateBlock(job, blockId, (block) => (free(block) ? scaledBlock(block, factor, origin) : block));
}

/** The factor next to another by which a block’s own size comes to a tenth of a point. */
export const factorInTenths = ({ style: { sizePt } }: Block, factor: number): number => Math.max(1, roundedTenths(sizePt * factor)) / sizePt;

/** A block with its sizes, and its leading where that is stated in points, to a tenth of a point. */
export function withTenths(block: Block): Block {
  const { style, runs, leading } = block;
  return {
    ...block,
    style: { ...style, sizePt: roundedTenths(style.sizePt) },
    runs: runs.map((run): Run => (run.style.sizePt === undefined ? run : { ...run, style: { ...run.style, sizePt: roundedTenths(run.style.sizePt) } })),
    leading: leading.kind === 'pt' ? { kind: 'pt', pt: roundedTenths(leading.pt) } : leading,
  };
}

const roundedTenths = (pt: number): number => Math.round(pt * 10) / 10;

/** A block with its words and frame scaled; see `scaleBlock`. */
export function scaledBlock(block: Block, factor: number, origin: { xPt: number; yPt: number }): Block {
  const largest = Math.max(block.style.sizePt, ...block.runs.map(({ style }) => style.sizePt ?? 0));
  const least = Math.min(block.style.sizePt, ...block.runs.map(({ style }) => style.sizePt ?? Number.POSITIVE_INFINITY));
  const by = Math.min(5000 / largest, Math.max(1 / least, factor));
  const { frame, paragraph } = block;
  return {
    ...block,
    style: { ...block.style, sizePt: block.style.sizePt * by },
    runs: block.runs.map((run): Run => (run.style.sizePt === undefined ? run : { ...run, style: { ...run.style, sizePt: run.style.sizePt * by } })),
    leading: block.leading.kind === 'pt' ? ({ kind: 'pt', pt: block.leading.pt * by } satisfies Leading) : block.leading,
    lineLeading: block.lineLeading.map(({ at, byPt }) => ({ at, byPt: byPt * by })),
    lineIndents: block.lineIndents.map(({ at, byPt }) => ({ at, byPt: byPt * by })),
    fit: block.fit && scaledFit(block.fit, by),
    paragraph: { ...paragraph, indentPt: paragraph.indentPt * by, beforePt: paragraph.beforePt * by, afterPt: paragraph.afterPt * by },
    path: scalePath(block.path, by),
    frame: {
      xPt: origin.xPt + (frame.xPt - origin.xPt) * by,
      yPt: origin.yPt + (frame.yPt - origin.yPt) * by,
      widthPt: Math.max(1, frame.widthPt * by),
      heightPt: Math.max(1, frame.heightPt * by),
    },
  };
}

/** Copies of blocks on the same sheet, a little lower and to the right. @returns the job and the copies' identifiers. */
export function duplicateBlocks(job: Job, blockIds: readonly string[], newId: () => string, byPt = 12): { job: Job; ids: string[] } {
  const ids: string[] = [];
  const sheets = job.sheets.map((sheet) => {
    const copies = sheet.blocks
      .filter(({ id }) => blockIds.includes(id))
      .map((block): Block => {
        const id = newId();
        ids.push(id);
        return { ...block, id, part: null, locked: false, frame: { ...block.frame, xPt: block.frame.xPt + byPt, yPt: block.frame.yPt + byPt } };
      });
    return copies.length > 0 ? { ...sheet, blocks: [...sheet.blocks, ...copies] } : sheet;
  });
  return { job: { ...job, sheets }, ids };
}

/** Moves a block in the painting order: to the front or back, or one step. */
export function orderBlock(job: Job, blockId: string, to: 'front' | 'back' | 'forward' | 'backward'): Job {
  const sheet = sheetOf(job, blockId);
  const from = sheet?.blocks.findIndex(({ id }) => id === blockId) ?? -1;
  const block = sheet?.blocks[from];
  if (!sheet || !block) return job;
  const last = sheet.blocks.length - 1;
  const at = { front: last, back: 0, forward: Math.min(last, from + 1), backward: Math.max(0, from - 1) }[to];
  if (at === from) return job;
  const blocks = sheet.blocks.toSpliced(from, 1).toSpliced(at, 0, block);
  return { ...job, sheets: job.sheets.map((other) => (other === sheet ? { ...sheet, blocks } : other)) };
}

/** Gives a block the settings of another, words and place kept. Runs of its own go. */
export function pasteSettings(job: Job, blockId: string, from: Pick<Block, 'style' | 'align' | 'leading' | 'paragraph' | 'trim' | 'vertical'>): Job {
  const style: Style = from.style;
  return updateBlock(job, blockId, (block) => ({
    ...block,
    style,
    runs: [],
    align: from.align,
    leading: from.leading,
    paragraph: from.paragraph,
    trim: from.trim,
    vertical: from.vertical,
  }));
}

/**
 * Sets a block in another face. Hand kerning was made for the old one: it is parked with it, and what was parked with the new face
 * comes back. Over a range, only the values inside it are parked.
 */
export function changeFace(job: Job, blockId: string, faceId: string, range?: { start: number; end: number }): Job {
  const before = findBlock(job, blockId);
  if (!before) return job;
  const old = styleAt(before, range?.start ?? 0).faceId;
  const changed = restyle(job, blockId, { faceId }, range);
  if (old === faceId) return changed;
  return updateBlock(changed, blockId, (block) => {
    const own = ({ at }: { at: number }): boolean => !range || (at > range.start && at < range.end);
    const back = block.parked.find((kept) => kept.faceId === faceId)?.hand.filter(own) ?? [];
    const parked = block.parked.filter((kept) => kept.faceId !== faceId && kept.faceId !== old);
    const away = block.hand.filter(own);
    const taken = new Set(back.map(({ at }) => at));
    const hand = [...block.hand.filter((kern) => !own(kern) && !taken.has(kern.at)), ...back].sort((a, b) => a.at - b.at);
    return { ...block, hand, parked: away.length > 0 ? [...parked, { faceId: old, hand: away }] : parked };
  });
}

/** Decides about manual kerning that was parked with another face: use it in this one, or let it go. */
export function settleParked(job: Job, blockId: string, faceId: string, use: boolean): Job {
  return updateBlock(job, blockId, (block) => {
    const kept = block.parked.find((candidate) => candidate.faceId === faceId);
    if (!kept) return block;
    const parked = block.parked.filter((candidate) => candidate !== kept);
    if (!use) return { ...block, parked };
    const own = new Set(block.hand.map(({ at }) => at));
    return { ...block, parked, hand: [...block.hand, ...kept.hand.filter(({ at }) => !own.has(at))].sort((a, b) => a.at - b.at) };
  });
}

/** A job with one face in the place of another, wherever it is named. */
export function replaceFace(job: Job, from: string, to: string): Job {
  const swap = <T extends { faceId?: string | undefined }>(style: T): T => (style.faceId === from ? { ...style, faceId: to } : style);
  return {
    ...job,
    sheets: job.sheets.map((sheet) => ({
      ...sheet,
      blocks: sheet.blocks.map((block) => ({
        ...block,
        style: swap(block.style),
        runs: block.runs.map((run) => ({ ...run, style: swap(run.style) })),
        parked: block.parked.some(({ faceId }) => faceId === from) ? block.parked.filter(({ faceId }) => faceId !== from) : block.parked,
      })),
    })),
    // What was made for the pairs of a face means nothing without it.
    pairs: job.pairs.some(({ faceId }) => faceId === from) ? job.pairs.filter(({ faceId }) => faceId !== from) : job.pairs,
  };
}
