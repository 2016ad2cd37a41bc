/** Sheets as files: what the drawing processes do. Everything comes in and goes out as files, so that the server only passes them on. */
import { readFileSync, writeFileSync } from 'node:fs';
import { drawSheet as drawingOf, onlyBlock } from '@jentrix/core/drawing';
import { checkJob } from '@jentrix/core/findings';
import { SHEET_FORMATS, type SheetFormat, type SheetMaterial, documentInfo, fitted, pngFormat } from '@jentrix/core/formats';
import { type Block, type Job, type Sheet, allBlocks, createBlock, resolveSheet } from '@jentrix/core/job';
import { type Preferences, judgeOf } from '@jentrix/core/preferences';
import { proofPage } from '@jentrix/core/proof';
import { previewSheet, renderSheetOnDemand, writeSheets } from '@jentrix/core/rendering';
import { fontFiles, pairFiles, pairsOfJob } from '@jentrix/core/pairs';
import { FaceSet, setSheet } from '@jentrix/core/setting';
import { strToU8, zipSync } from 'fflate';
import { openFontBytes } from '../faces/describe-font';
import { notFound } from '../http/problem';
import { readStored } from '../filing/filing';
import { fileName } from './file-names';

/** How many opened faces are kept. */
const MOST_OPEN = 60;

/** The input of a drawing. */
export interface DrawingInput {
  /** The job as stored. */
  document: string;
  /** Path of the font file of each face that is at hand, by identifier. */
  faces: Readonly<Record<string, string>>;
  standInId: string;
  /** Media type and path of each picture that is at hand, by identifier. */
  pictures: Readonly<Record<string, { type: string; path: string }>>;
  /** Where the file goes. */
  out: string;
}

/** Name for a drawing that was made, without its ending. */
export interface Drawn {
  name: string;
}

/** The pairs a job is spaced by, as files in a ZIP. @param fonts whether fonts with the pairs are among them. @param licences by face, as files. */
export async function drawPairs({
  out,
  fonts,
  licences,
  ...input
}: DrawingInput & { fonts: boolean; licences: Readonly<Record<string, string>> }): Promise<Drawn> {
  const job = readStored(input.document);
  const faces = await openedFaces(allBlocks(job), input);
  const found = pairsOfJob(job, faces);
  const files: Record<string, Uint8Array> = Object.fromEntries(Object.entries(pairFiles(found)).map(([name, content]) => [name, strToU8(content)]));
  if (fonts) {
    const licenceOf = (id: string): string | undefined => licences[id] && readFileSync(licences[id], 'utf8');
    const { files: made, notes } = await fontFiles(found, faces, { name: `${job.title.slice(0, 40)} spaced`, licenceOf });
    Object.assign(files, made);
    if (notes.length > 0) files['fonts/notes.txt'] = strToU8(`${notes.join('\n')}\n`);
  }
  // The earliest time a ZIP can state: the same pairs give the same file.
  writeFileSync(out, zipSync(files, { mtime: new Date(1980, 0, 1) }));
  return { name: fileName({ title: job.title, sheets: [] }) };
}

/** A request to draw a part of a job. */
interface Asked {
  /** The id of a format, and options as its schema gives them. */
  format: string;
  options: unknown;
  /** Only this block of each sheet. */
  block?: string | undefined;
}

/**
 * Sheets in a format: one, or several where it has pages.
 * @throws ProblemError 404 for an unknown sheet, 413 for what is over a limit.
 */
export async function drawSheets({ sheetIds, format: id, options, block, ...input }: DrawingInput & Asked & { sheetIds: readonly string[] }): Promise<Drawn> {
  const format = formatCalled(id);
  const job = readStored(input.document);
  const [first, ...more] = await inTurn(sheetIds, (sheetId) => materialOf(findSheet(job, sheetId), input, block));
  if (!first) throw notFound('sheet');
  writeFileSync(input.out, await writeSheets(format, [first, ...more], documentInfo(job), options));
  return { name: fileName(job, more.length === 0 ? sheetIds[0] : undefined) };
}

/** How a sheet comes to lie in a file. @param side of the square it fits into, in pixels. @throws ProblemError 404 */
export async function drawPreview({
  sheetId,
  format,
  options,
  block,
  side,
  ...input
}: DrawingInput & Asked & { sheetId: string; side: number }): Promise<Drawn> {
  const job = readStored(input.document);
  writeFileSync(input.out, await previewSheet(formatCalled(format), await materialOf(findSheet(job, sheetId), input, block), options, side));
  return { name: fileName(job, sheetId) };
}

function formatCalled(id: string): SheetFormat {
  const format = SHEET_FORMATS.find((one) => one.id === id);
  if (!format) throw new Error(`There is no format “${id}”`);
  return format;
}

async function inTurn<T, R>(list: readonly T[], make: (one: T) => Promise<R>): Promise<R[]> {
  const made: R[] = [];
  for (const one of list) made.push(await make(one));
  return made;
}

/** The first sheet as a small PNG. @param side of the square it fits into, in pixels. */
export async function drawThumbnail({ side, ...input }: DrawingInput & { side: number }): Promise<void> {
  const job = readStored(input.document);
  const sheet = findSheet(job, job.sheets[0]?.id ?? '');
  writeFileSync(input.out, await previewSheet(pngFormat, await materialOf(sheet, input), {}, side));
}

/**
 * A sheet on a page to send, beside how it was before where that is given.
 * @param before the earlier state as it was stored. @param date as the page tells it. @throws ProblemError 404
 */
export async function drawProof({
  sheetId,
  before,
  preferences,
  date,
  ...input
}: DrawingInput & { sheetId: string; before: string | undefined; preferences: Preferences; date: string }): Promise<Drawn> {
  const job = readStored(input.document);
  const earlier = before === undefined ? undefined : readStored(before);
  const sheet = findSheet(job, sheetId);
  const own = createBlock('proof', '', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 });
  const faces = await openedFaces([...allBlocks(job), ...(earlier ? allBlocks(earlier) : []), own], input);
  const state = (of: Job) => ({ job: of, check: checkJob(of, faces, { judge: judgeOf(preferences) }) });
  const drawing = proofPage({ sheetId, after: state(job), before: earlier && state(earlier), faces, date });
  const pictures = new Map([sheet, ...(earlier?.sheets.filter(({ id }) => id === sheetId) ?? [])].flatMap((one) => [...picturesFor(one, input)]));
  const height = Math.ceil((PROOF_PX * drawing.heightPt) / drawing.widthPt);
  writeFileSync(input.out, await renderSheetOnDemand({ drawing, faces, pictures }, pngFormat.id, { width: PROOF_PX, height }));
  return { name: `${fileName(job, sheetId)} proof` };
}

/** How wide a proof is, in pixels. */
const PROOF_PX = 2400;

/** @param blockId where only this block is wanted. @throws ProblemError 404 for one that isn't there, or shows nothing */
async function materialOf(sheet: Sheet, input: DrawingInput, blockId?: string): Promise<SheetMaterial> {
  const faces = await openedFaces(sheet.blocks, input);
  const whole = drawingOf(sheet, setSheet(sheet, faces));
  const drawing = blockId === undefined ? whole : onlyBlock(whole, blockId, faces);
  if (!drawing) throw notFound('block');
  return { drawing, faces, pictures: picturesFor(sheet, input) };
}

/** The sheet as it is set. @throws ProblemError 404 */
function findSheet(job: Job, sheetId: string): Sheet {
  const sheet = job.sheets.find(({ id }) => id === sheetId);
  if (!sheet) throw notFound('sheet');
  return resolveSheet(job, sheet);
}

let opened: FaceSet | undefined;

/** The faces that blocks name, opened; they stay open for the next. */
export async function openedFaces(blocks: readonly Block[], { faces, standInId }: Pick<DrawingInput, 'faces' | 'standInId'>): Promise<FaceSet> {
  if (!opened || opened.size > MOST_OPEN) opened = new FaceSet(standInId);
  const named = blocks.flatMap(({ style, runs }) => [style.faceId, ...runs.flatMap((run) => run.style.faceId ?? [])]);
  for (const id of new Set([standInId, ...named])) {
    const path = faces[id];
    if (path !== undefined && !opened.has(id)) opened.add(id, await openFontBytes(readFileSync(path)));
  }
  return opened;
}

/** The sheet's picture, as a `data:` address; one that is gone is left out. */
function picturesFor({ background }: Sheet, { pictures }: DrawingInput): Map<string, string> {
  const picture = background.kind === 'picture' ? pictures[background.pictureId] : undefined;
  if (background.kind !== 'picture' || !picture) return new Map();
  const bytes = readFileSync(picture.path);
  const laid = picture.type === 'image/svg+xml' ? Buffer.from(fitted(bytes.toString('utf8'), background.fit)) : bytes;
  return new Map([[background.pictureId, `data:${picture.type};base64,${laid.toString('base64')}`]]);
}
