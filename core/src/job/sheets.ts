/** Edits of sheets: pure functions from a job to a job. */
import { type LengthUnit, toPoints } from '../units';
import { createSheet, usualMarginPt } from './create';
import type { Background, Block, Job, Sheet } from './schema';

/** A size people ask for by name. */
export interface SheetPreset {
  name: string;
  kind: 'poster' | 'slides' | 'social' | 'flyer';
  width: number;
  height: number;
  unit: LengthUnit;
}

/** Common sizes; ISO 216 for paper. */
export const SHEET_PRESETS: readonly SheetPreset[] = [
  { name: 'Poster A1', kind: 'poster', width: 594, height: 841, unit: 'mm' },
  { name: 'Poster A2', kind: 'poster', width: 420, height: 594, unit: 'mm' },
  { name: 'Poster A3', kind: 'poster', width: 297, height: 420, unit: 'mm' },
  { name: 'Poster 18 × 24 in', kind: 'poster', width: 18, height: 24, unit: 'in' },
  { name: 'Slide 16:9', kind: 'slides', width: 1920, height: 1080, unit: 'px' },
  { name: 'Slide 4:3', kind: 'slides', width: 1440, height: 1080, unit: 'px' },
  { name: 'Square 1:1', kind: 'social', width: 1080, height: 1080, unit: 'px' },
  { name: 'Upright 4:5', kind: 'social', width: 1080, height: 1350, unit: 'px' },
  { name: 'Tall 9:16', kind: 'social', width: 1080, height: 1920, unit: 'px' },
  { name: 'Page A4', kind: 'flyer', width: 210, height: 297, unit: 'mm' },
  { name: 'Flyer A5', kind: 'flyer', width: 148, height: 210, unit: 'mm' },
  { name: 'Flyer A6', kind: 'flyer', width: 105, height: 148, unit: 'mm' },
  { name: 'Flyer DL', kind: 'flyer', width: 99, height: 210, unit: 'mm' },
  { name: 'Letter', kind: 'flyer', width: 8.5, height: 11, unit: 'in' },
];

/** The common size that a sheet has, upright or on its side. */
export function presetOf({ widthPt, heightPt }: Pick<Sheet, 'widthPt' | 'heightPt'>): SheetPreset | undefined {
  const has = (w: number, h: number) => (one: SheetPreset) => boxesMeet(toPoints(one.width, one.unit), w) && boxesMeet(toPoints(one.height, one.unit), h);
  return SHEET_PRESETS.find(has(widthPt, heightPt)) ?? SHEET_PRESETS.find(has(heightPt, widthPt));
}

/** An empty sheet of a preset. */
export function sheetOfPreset(id: string, { name, width, height, unit }: SheetPreset): Sheet {
  return createSheet(id, name, toPoints(width, unit), toPoints(height, unit), unit);
}

/** Changes what a sheet is, but not its blocks. */
export function withSheet(job: Job, sheetId: string, change: Partial<Omit<Sheet, 'id' | 'blocks'>>): Job {
  return { ...job, sheets: job.sheets.map((sheet) => (sheet.id === sheetId ? { ...sheet, ...change } : sheet)) };
}

/** A picture as a ground; what shows where it does not reach stays as it was. */
export const pictureOn = (before: Background, pictureId: string): Background => ({
  kind: 'picture',
  pictureId,
  fit: 'cover',
  colour: before.kind === 'gradient' ? before.from : before.colour,
});

/** Puts blocks on a sheet as they stand to each other, the uppermost at a height; what would stand below the sheet stands on its lower edge. */
export function bringBlocks(job: Job, sheetId: string, blocks: readonly Block[], topPt?: number): Job {
  const [top, bottom] = [Math.min(...blocks.map(({ frame }) => frame.yPt)), Math.max(...blocks.map(({ frame }) => frame.yPt + frame.heightPt))];
  return {
    ...job,
    sheets: job.sheets.map((sheet): Sheet => {
      if (sheet.id !== sheetId) return sheet;
      const wanted = topPt ?? top;
      const shift = Math.max(0, Math.min(wanted, sheet.heightPt - (bottom - top))) - top;
      return { ...sheet, blocks: [...sheet.blocks, ...blocks.map((block) => ({ ...block, frame: { ...block.frame, yPt: block.frame.yPt + shift } }))] };
    }),
  };
}

/** Two lengths that nobody can tell apart, in points. */
const HAIR_PT = 0.05;
const boxesMeet = (a: number, b: number): boolean => Math.abs(a - b) < HAIR_PT;

/**
 * Gives a sheet another size. Margins that are the usual ones follow it, and so do blocks that stand on them: what reaches from margin
 * to margin still does, what stands on the far one or in the middle stays there. Everything else, and what is locked, stays where it is.
 */
export function resizeSheet(job: Job, sheetId: string, size: Pick<Sheet, 'widthPt' | 'heightPt'> & Partial<Pick<Sheet, 'unit'>>): Job {
  return { ...job, sheets: job.sheets.map((sheet) => (sheet.id === sheetId ? resized(sheet, { ...sheet, ...size }) : sheet)) };
}

function resized(before: Sheet, after: Sheet): Sheet {
  const usual = usualMarginPt(before.widthPt, before.heightPt);
  const next = usualMarginPt(after.widthPt, after.heightPt);
  const follow = (marginPt: number): number => (boxesMeet(marginPt, usual) ? next : marginPt);
  const { topPt, rightPt, bottomPt, leftPt } = before.margins;
  const sheet = { ...after, margins: { topPt: follow(topPt), rightPt: follow(rightPt), bottomPt: follow(bottomPt), leftPt: follow(leftPt) } };
  const blocks = before.blocks.map((block): Block => {
    if (block.locked) return block;
    const { frame } = block;
    const [xPt, widthPt] = stretch([frame.xPt, frame.widthPt], side(before, 'x'), side(sheet, 'x'));
    const [yPt] = stretch([frame.yPt, frame.heightPt], side(before, 'y'), side(sheet, 'y'));
    return xPt === frame.xPt && yPt === frame.yPt && widthPt === frame.widthPt ? block : { ...block, frame: { ...frame, xPt, yPt, widthPt } };
  });
  return { ...sheet, blocks };
}

/** A sheet along one axis: how long it is, and the margins at its ends. */
type SheetAxis = readonly [lengthPt: number, nearPt: number, farPt: number];
const side = ({ widthPt, heightPt, margins }: Sheet, axis: 'x' | 'y'): SheetAxis =>
  axis === 'x' ? [widthPt, margins.leftPt, margins.rightPt] : [heightPt, margins.topPt, margins.bottomPt];

/** Where a stretch that keeps to margins or the middle of one side stands on another. */
function stretch([at, long]: readonly [number, number], [length, near, far]: SheetAxis, [toLength, toNear, toFar]: SheetAxis): [number, number] {
  const onNear = boxesMeet(at, near);
  const onFar = boxesMeet(at + long, length - far);
  if (onNear && onFar) return [toNear, Math.max(1, toLength - toNear - toFar)];
  if (onNear) return [toNear, long];
  if (onFar) return [toLength - toFar - long, long];
  return boxesMeet(at + long / 2, length / 2) ? [toLength / 2 - long / 2, long] : [at, long];
}

/** Adds a sheet behind another, or at the end. */
export function addSheet(job: Job, sheet: Sheet, afterId?: string): Job {
  const at = job.sheets.findIndex(({ id }) => id === afterId);
  return { ...job, sheets: at < 0 ? [...job.sheets, sheet] : job.sheets.toSpliced(at + 1, 0, sheet) };
}

/** A sheet with everything on it once more, behind the first. @param newId gives a fresh identifier at every call. */
export function duplicateSheet(job: Job, sheetId: string, newId: () => string): Job {
  const sheet = job.sheets.find(({ id }) => id === sheetId);
  if (!sheet) return job;
  const copy: Sheet = {
    ...sheet,
    id: newId(),
    name: `${sheet.name} copy`.slice(0, 200),
    blocks: sheet.blocks.map((block) => ({ ...block, id: newId(), part: null })),
  };
  return addSheet(job, copy, sheetId);
}

/** Moves a sheet to another place in the order. */
export function moveSheet(job: Job, from: number, to: number): Job {
  const sheet = job.sheets[from];
  if (!sheet || from === to || to < 0 || to >= job.sheets.length) return job;
  return { ...job, sheets: job.sheets.toSpliced(from, 1).toSpliced(to, 0, sheet) };
}

/** Takes a sheet out; the last one stays. Pair rules that held only there go with it. */
export function removeSheet(job: Job, sheetId: string): Job {
  const sheet = job.sheets.find(({ id }) => id === sheetId);
  if (!sheet || job.sheets.length === 1) return job;
  const gone = new Set([sheet.id, ...sheet.blocks.map(({ id }) => id)]);
  return {
    ...job,
    sheets: job.sheets.filter((other) => other !== sheet),
    pairs: job.pairs.filter(({ scope }) => scope.kind === 'job' || !gone.has(scope.id)),
  };
}

/** The sheet a block is on. */
export function sheetOf(job: Job, blockId: string): Sheet | undefined {
  return job.sheets.find(({ blocks }) => blocks.some(({ id }) => id === blockId));
}

/** All blocks of a job, sheet by sheet. */
export const allBlocks = (job: Job): Block[] => job.sheets.flatMap(({ blocks }) => blocks);
