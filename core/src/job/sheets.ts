/** Edits of sheets: pure functions from a job to a job. */
import { type LengthUnit, toPoints } from '../units';
import { createSheet } from './create';
import type { Block, Job, Sheet } from './schema';

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
  { name: 'Flyer A5', kind: 'flyer', width: 148, height: 210, unit: 'mm' },
  { name: 'Flyer A6', kind: 'flyer', width: 105, height: 148, unit: 'mm' },
  { name: 'Flyer DL', kind: 'flyer', width: 99, height: 210, unit: 'mm' },
  { name: 'Letter', kind: 'flyer', width: 8.5, height: 11, unit: 'in' },
];

/** An empty sheet of a preset. */
export function sheetOfPreset(id: string, { name, width, height, unit }: SheetPreset): Sheet {
  return createSheet(id, name, toPoints(width, unit), toPoints(height, unit), unit);
}

/** Changes what a sheet is, but not its blocks. */
export function withSheet(job: Job, sheetId: string, change: Partial<Omit<Sheet, 'id' | 'blocks'>>): Job {
  return { ...job, sheets: job.sheets.map((sheet) => (sheet.id === sheetId ? { ...sheet, ...change } : sheet)) };
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
  const copy: Sheet = { ...sheet, id: newId(), name: `${sheet.name} copy`.slice(0, 200), blocks: sheet.blocks.map((block) => ({ ...block, id: newId() })) };
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
