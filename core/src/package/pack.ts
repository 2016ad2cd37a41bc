/** The contents of a package, gathered from wherever they are kept. */
import { withoutReferences, writeJobFile } from '../formats/job-file';
import { type Job, type Recipe, readJob, usesOf } from '../job';
import { type PullArchive, archivedPulls } from '../pulls';
import type { Manifest } from './manifest';
import { type PackedFace, type PackedPicture, writePackage } from './package';

/** A font as it is kept. */
export interface FoundFace extends Omit<PackedFace, 'id'> {
  /** Whether its maker lets it be passed on. */
  installable: boolean;
}

/** Where the things are that a job names; each answers undefined for one it has not. */
export interface PackSources {
  face(id: string): Promise<FoundFace | undefined>;
  picture(id: string): Promise<Omit<PackedPicture, 'id'> | undefined>;
  recipe(id: string): Promise<Recipe | undefined>;
}

/**
 * A job as a package, with all that it and its pulls name. What is not at hand, and faces that must not be passed on, are left out
 * and named. What sheets are matched with stays here, as it does with a job file.
 * @throws PackageError where it would be too large; JobFormatError where a pull can’t be read
 */
export async function packJob(whole: Job, kept: PullArchive | undefined, sources: PackSources): Promise<Uint8Array> {
  const job = withoutReferences(whole);
  const states = kept ? archivedPulls(kept).map(({ document }) => withoutReferences(readJob(JSON.parse(document)))) : [];
  const uses = new Map([job, ...states].flatMap(usesOf).map((use) => [`${use.kind} ${use.id}`, use]));
  const faces: PackedFace[] = [];
  const pictures: PackedPicture[] = [];
  const recipes: Recipe[] = [];
  const left: Manifest['left'] = [];
  for (const { kind, id } of uses.values()) {
    const miss = (why: string, name = ''): unknown => left.push({ kind, id, name, why });
    if (kind === 'face') {
      const found = await sources.face(id);
      if (!found) miss('It is missing.');
      else if (!found.installable) miss('Its licence does not allow sharing.', `${found.family} ${found.style}`);
      else faces.push({ id, family: found.family, style: found.style, bytes: found.bytes, licence: found.licence });
    } else if (kind === 'picture') {
      const found = await sources.picture(id);
      if (found) pictures.push({ id, ...found });
      else miss('It is missing.');
    } else {
      const found = await sources.recipe(id);
      if (found) recipes.push(found);
      else miss('It is missing.');
    }
  }
  return writePackage({ title: job.title, job: writeJobFile(job, kept), recipes, faces, pictures, left });
}

/** Messages about what a package does not hold. */
export const toldOfLeft = (left: Manifest['left']): string[] =>
  left.map(({ kind, id, name, why }) => `The ${kind} “${name || id}” is not in the package. ${why}`);
