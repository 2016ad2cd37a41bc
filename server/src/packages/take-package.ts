/** Packages that come in: what the reading processes do. */
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { type Recipe, type Use, renameUses } from '@jentrix/core/job';
import { openPackage, toldOfLeft } from '@jentrix/core/package';
import { file, readStored } from '../filing/filing';
import { type FiledWithPulls, filedPulls } from '../filing/file-with-pulls';

/** A thing out of a package, put down as a file. */
export interface PutDown {
  id: string;
  /** SHA-256, in hexadecimal. */
  digest: string;
  path: string;
  /** As people are told. */
  name: string;
}

export interface TakenPackage {
  title: string;
  /** The job as JSON, and its pulls as they came. */
  document: string;
  kept: unknown;
  faces: PutDown[];
  pictures: PutDown[];
  recipes: Recipe[];
  notes: string[];
}

/**
 * Opens a package, checks all of it, and puts its fonts and pictures down as files whose paths begin with `out`.
 * @throws PackageError, JobFormatError, ProblemError 422
 */
export function takePackage({ path, out }: { path: string; out: string }): TakenPackage {
  const { title, job, kept, faces, pictures, recipes, left } = openPackage(new Uint8Array(readFileSync(path)));
  // Before anything is kept: a pull that can't be read refuses the whole.
  if (kept !== undefined) filedPulls(kept);
  let count = 0;
  const putDown = (id: string, name: string, bytes: Uint8Array): PutDown => {
    const at = `${out}-${++count}`;
    writeFileSync(at, bytes);
    return { id, name, digest: createHash('sha256').update(bytes).digest('hex'), path: at };
  };
  return {
    title,
    document: JSON.stringify(job),
    kept,
    faces: faces.map(({ id, family, style, bytes }) => putDown(id, `${family} ${style}`, bytes)),
    pictures: pictures.map(({ id, bytes }) => putDown(id, id, bytes)),
    recipes,
    notes: toldOfLeft(left),
  };
}

/** The ids here of the things in a package; null for a recipe that blocks are to leave. */
export type Names = readonly (Use & { to: string | null })[];

/** The job of a package and its pulls, with the names that things have here. @throws ProblemError 422 */
export function filePackage({ document, kept, names }: { document: string; kept: unknown; names: Names }): FiledWithPulls {
  const known = new Map(names.map(({ kind, id, to }) => [`${kind} ${id}`, to]));
  const named = (job: ReturnType<typeof readStored>): typeof job =>
    renameUses(job, ({ kind, id }) => {
      const to = known.get(`${kind} ${id}`);
      return to === undefined ? id : to;
    });
  return { ...file(named(readStored(document))), pulls: kept === undefined ? [] : filedPulls(kept, named) };
}
