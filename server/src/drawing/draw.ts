/** Sheets as files: what the drawing processes do. Everything comes in and goes out as files, so that the server only passes them on. */
import { closeSync, openSync, readFileSync, writeFileSync, writeSync } from 'node:fs';
import { drawSheet as drawingOf } from '@jentrix/core/drawing';
import { checkJob } from '@jentrix/core/findings';
import { MAX_PIXELS, SHEET_FORMATS, type SheetMaterial, fitted, pngFormat } from '@jentrix/core/formats';
import { type Block, type Job, type Sheet, allBlocks, createBlock, resolveSheet } from '@jentrix/core/job';
import { type Preferences, judgeOf } from '@jentrix/core/preferences';
import { proofPage } from '@jentrix/core/proof';
import { renderSheet } from '@jentrix/core/rendering';
import { FaceSet, setSheet } from '@jentrix/core/setting';
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { openFont } from '../faces/describe-font';
import { ProblemError, notFound } from '../http/problem';
import { readStored } from '../jobs/filing';
import { fileName } from './file-names';

/** How many opened faces are kept. */
const MOST_OPEN = 60;

/** What a drawing is made of. */
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

/**
 * A sheet in a format.
 * @param options as the format's schema gives them.
 * @throws ProblemError 404 for an unknown sheet, 413 for a picture over the limit.
 */
export async function drawSheet({
  sheetId,
  format: id,
  options,
  ...input
}: DrawingInput & { sheetId: string; format: string; options: unknown }): Promise<Drawn> {
  const format = SHEET_FORMATS.find((one) => one.id === id);
  if (!format) throw new Error(`There is no format “${id}”`);
  const job = readStored(input.document);
  const sheet = findSheet(job, sheetId);
  if (format.kind === 'text') writeFileSync(input.out, format.write(await materialOf(sheet, input), options));
  else {
    const pixels = format.pixels(sheet, options);
    if (pixels.width * pixels.height > MAX_PIXELS) {
      throw new ProblemError(
        413,
        'picture-too-large',
        'The picture is too large',
        `It would have ${pixels.width} × ${pixels.height} pixels. Choose a smaller scale, or hand over SVG.`,
      );
    }
    await render(sheet, input, pixels, format.id);
  }
  return { name: fileName(job, sheetId) };
}

/** The first sheet as a small PNG. @param side of the square it fits into, in pixels. */
export async function drawThumbnail({ side, ...input }: DrawingInput & { side: number }): Promise<void> {
  const job = readStored(input.document);
  const sheet = findSheet(job, job.sheets[0]?.id ?? '');
  const scale = side / Math.max(sheet.widthPt, sheet.heightPt);
  const pixels = { width: Math.max(1, Math.round(sheet.widthPt * scale)), height: Math.max(1, Math.round(sheet.heightPt * scale)) };
  await render(sheet, input, pixels, pngFormat.id);
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
  writeFileSync(input.out, renderSheet({ drawing, faces, pictures }, pngFormat.id, { width: PROOF_PX, height }));
  return { name: `${fileName(job, sheetId)} proof` };
}

/** How wide a proof is, in pixels. */
const PROOF_PX = 2400;

/** Puts files into one ZIP. @param files those that are packed already go in as they are. */
export function pack({ files, out }: { files: readonly { name: string; path: string; packed: boolean }[]; out: string }): void {
  const target = openSync(out, 'w');
  try {
    const zip = new Zip((error, chunk) => {
      if (error) throw error;
      writeSync(target, chunk);
    });
    for (const { name, path, packed } of files) {
      const entry = packed ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
      zip.add(entry);
      entry.push(readFileSync(path), true);
    }
    zip.end();
  } finally {
    closeSync(target);
  }
}

async function render(sheet: Sheet, input: DrawingInput, pixels: { width: number; height: number }, format: string): Promise<void> {
  writeFileSync(input.out, renderSheet(await materialOf(sheet, input), format, pixels));
}

async function materialOf(sheet: Sheet, input: DrawingInput): Promise<SheetMaterial> {
  const faces = await openedFaces(sheet.blocks, input);
  return { drawing: drawingOf(sheet, setSheet(sheet, faces)), faces, pictures: picturesFor(sheet, input) };
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
    if (path !== undefined && !opened.has(id)) opened.add(id, await openFont(readFileSync(path)));
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
