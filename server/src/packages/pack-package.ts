/** A stored job as a package: what the reading processes do. */
import { readFileSync, writeFileSync } from 'node:fs';
import type { Recipe } from '@jentrix/core/job';
import { PackageError, packJob, type FoundFace } from '@jentrix/core/package';
import { openFontBytes } from '../faces/describe-font';
import { fileName } from '../drawing/file-names';
import { ProblemError } from '../http/problem';
import { readStored } from '../filing/filing';
import { type StoredPulls, keptOf } from '../filing/file-with-pulls';

/** The input of a package: files by what the job calls them. */
export interface PackInput {
  /** The job as stored. */
  document: string;
  pulls: StoredPulls;
  /** Fonts, and the licences they came with. */
  faces: Readonly<Record<string, string>>;
  licences: Readonly<Record<string, string>>;
  /** With their media types. */
  pictures: Readonly<Record<string, { type: string; path: string }>>;
  recipes: readonly Recipe[];
  /** Where the package goes. */
  out: string;
}

/** @throws ProblemError 413 where it would be too large, 422 */
export async function packPackage({ document, pulls, faces, licences, pictures, recipes, out }: PackInput): Promise<{ name: string }> {
  const job = readStored(document);
  const kept = pulls.pulls.length > 0 ? keptOf(pulls) : undefined;
  const packed = packJob(job, kept, {
    face: (id) => (faces[id] === undefined ? Promise.resolve(undefined) : foundFace(faces[id], licences[id])),
    picture: (id) => Promise.resolve(pictures[id] && { type: pictures[id].type, bytes: new Uint8Array(readFileSync(pictures[id].path)) }),
    recipe: (id) => Promise.resolve(recipes.find((one) => one.id === id)),
  });
  writeFileSync(
    out,
    await packed.catch((error: unknown) => {
      throw error instanceof PackageError ? new ProblemError(413, 'too-large', 'The package would be too large', error.message) : error;
    }),
  );
  return { name: fileName({ title: job.title, sheets: [] }) };
}

async function foundFace(path: string, licence: string | undefined): Promise<FoundFace> {
  const bytes = readFileSync(path);
  const face = await openFontBytes(bytes);
  try {
    const { family, style, installable } = face;
    return { family, style, installable, bytes: new Uint8Array(bytes), licence: licence === undefined ? undefined : readFileSync(licence, 'utf8') };
  } finally {
    face.dispose();
  }
}
