/** Files of other kinds as jobs: what the reading processes do. */
import { randomUUID } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { readerFor, importJob } from '@jentrix/core/intake';
import { type Recipe, createBlock } from '@jentrix/core/job';
import { openedFaces } from '../drawing/draw';
import { ProblemError } from '../http/problem';

/** The file of an import. */
export interface TakeInput {
  /** Where it lies, and what it was called. */
  path: string;
  name: string;
  title: string;
  /** All faces at hand. */
  faces: Readonly<Record<string, string>>;
  standInId: string;
  /** Where the picture underneath goes, if there is one. */
  pictureOut: string;
  /** Its picture's id in the job. */
  pictureId: string;
  recipes: readonly Recipe[];
  /** That blocks without a place of their own stand on. */
  sheet?: { widthPt: number; heightPt: number } | undefined;
}

/** @throws ProblemError 415 for a kind that isn't read, 422 for one that can't be */
export async function importUpload({
  path,
  name,
  title,
  faces,
  standInId,
  pictureOut,
  pictureId,
  recipes: known,
  sheet,
}: TakeInput): Promise<{ job: string; picture: boolean; recipes: Recipe[]; notes: string[] }> {
  const reader = readerFor(name);
  if (!reader) throw unknownKind(name);
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(readFileSync(path));
  } catch {
    throw new ProblemError(422, 'not-text', 'The file can’t be read', 'It is not UTF-8 text.');
  }
  const blocks = Object.keys(faces).map((faceId) => createBlock(faceId, '', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }, { faceId }));
  const options = { title, newId: randomUUID, pictureId, recipes: known, sheet };
  const { job, picture, recipes = [], notes } = importJob(reader, text, await openedFaces(blocks, { faces, standInId }), options);
  if (picture !== undefined) writeFileSync(pictureOut, picture);
  return { job: JSON.stringify(job), picture: picture !== undefined, recipes, notes };
}

export const unknownKind = (name: string): ProblemError =>
  new ProblemError(415, 'unknown-kind', 'Unsupported file type', `“${name}” is neither an SVG, text, Markdown, HTML, CSV nor a package.`);
