/** Files of other kinds as jobs. */
import { FileError } from '../base';
import { type Block, JOB_VERSION, type Job, LIMITS, type Recipe, createSheet } from '../job';
import { type FaceSet, setBlock } from '../setting';
import { toPoints } from '../units';

/** A file can't be imported; the message is for people. */
export class IntakeError extends FileError {
  override readonly name = 'IntakeError';
}

/** The options of an import. */
export interface IntakeOptions {
  /** Of the job, where the file gives none. */
  title: string;
  /** Gives a fresh identifier at every call. */
  newId: () => string;
  /** The name for the picture underneath, where there is one. */
  pictureId: string;
  /** The recipes there are. */
  recipes?: readonly Recipe[] | undefined;
  /** Of the sheet that blocks without a place of their own stand on, in points; A4 where it is not said. */
  sheet?: { widthPt: number; heightPt: number } | undefined;
}

/** The result of an import. */
export interface ImportResult {
  job: Job;
  /** An SVG that lies under the words; undefined where there is none. */
  picture?: string | undefined;
  /** Recipes that blocks follow and that are not there yet. */
  recipes?: Recipe[] | undefined;
  /** Messages for people: what stands in for what, and what was left. */
  notes: string[];
}

/** A kind of file that is imported. */
export interface Reader {
  id: string;
  /** As people are told. */
  name: string;
  mediaType: string;
  /** Endings of file names, with their point. */
  extensions: readonly string[];
  /** @throws WordedError saying what is wrong with the file */
  take(text: string, faces: FaceSet, options: IntakeOptions): ImportResult;
}

/** Text that is longer is no copy for posters, in characters. */
export const MAX_IMPORT_TEXT = 2_000_000;

/** @throws IntakeError */
export function checkedText(text: string): string {
  if (text.trim() === '') throw new IntakeError('The file is empty.');
  if (text.length > MAX_IMPORT_TEXT) throw new IntakeError(`The file has ${text.length} characters; the limit is ${MAX_IMPORT_TEXT}.`);
  if (text.includes('\u0000')) throw new IntakeError('The file is not text.');
  return text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n');
}

const A4 = { widthPt: toPoints(210, 'mm'), heightPt: toPoints(297, 'mm') };
/** White between blocks that are stacked, over their size. */
const APART = 0.6;

/**
 * Blocks as a job: one sheet, on which those without a place of their own stand below each other.
 * @param placed the blocks that have a place. @throws IntakeError
 */
export function jobOf(
  blocks: readonly Block[],
  faces: FaceSet,
  { title, newId, sheet: size = A4 }: IntakeOptions,
  placed: ReadonlySet<Block> = new Set(),
): Job {
  if (blocks.length === 0) throw new IntakeError('There are no words in the file.');
  if (blocks.length > LIMITS.blocks) throw new IntakeError(`The file makes ${blocks.length} blocks; a sheet holds at most ${LIMITS.blocks}.`);
  const sheet = createSheet(newId(), 'Sheet 1', size.widthPt, size.heightPt, 'mm');
  const { leftPt, rightPt, topPt } = sheet.margins;
  let yPt = topPt;
  const stacked = blocks.map((block): Block => {
    if (placed.has(block)) return block;
    const standing = { ...block, frame: { ...block.frame, xPt: leftPt, yPt, widthPt: sheet.widthPt - leftPt - rightPt } };
    const { frame } = setBlock(standing, faces);
    yPt += frame.heightPt + APART * block.style.sizePt;
    return { ...standing, frame: { ...standing.frame, heightPt: frame.heightPt } };
  });
  return { format: 'jentrix.job', version: JOB_VERSION, title, kind: 'other', language: null, pairs: [], sheets: [{ ...sheet, blocks: stacked }] };
}
