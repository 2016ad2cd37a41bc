/** Packages in the command: a job with its folders as one, and one as a job with its folders. */
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, extname, join, relative } from 'node:path';
import { openJobFile, writeJobFile } from '@jentrix/core/formats';
import { type Recipe, describeIssues } from '@jentrix/core/job';
import {
  type OpenedPackage,
  PICTURE_ENDINGS,
  PackageError,
  RECIPES_FILE,
  fontEnding,
  openPackage,
  packJob,
  recipesIn,
  recipesText,
  toldOfLeft,
} from '@jentrix/core/package';
import { pullArchiveSchema } from '@jentrix/core/pulls';
import { facePaths, openFontFile, readBytes, glyphText } from './fonts';
import { isPackage } from './is-package';
import { picturesBeside, pictureFile } from './pictures';
import { SHIPPED_FACES } from './shipped-faces';
import { UsageError } from './usage-error';

/** The recipes that lie beside a job file; none where there are none. */
const recipesBeside = (jobFile: string): string => join(dirname(jobFile), RECIPES_FILE);

/** @throws UsageError, PackageError */
export function recipesAt(jobFile: string): Recipe[] {
  const path = recipesBeside(jobFile);
  if (!existsSync(path)) return [];
  try {
    return recipesIn(JSON.parse(glyphText(path)));
  } catch (error) {
    throw error instanceof SyntaxError ? new UsageError(`“${path}” is not JSON.`) : error;
  }
}

export const writeRecipes = (jobFile: string, recipes: readonly Recipe[]): void => writeFileSync(recipesBeside(jobFile), recipesText(recipes));

/** A job file with what lies in its folders as a package. @returns its bytes, and what is not in it. @throws WordedError */
export async function packageOf(jobFile: string, facesIn: string, picturesIn: string | undefined): Promise<{ bytes: Uint8Array; notes: string[] }> {
  const { job, kept } = openJobFile(glyphText(jobFile));
  const pulls = kept === undefined ? undefined : pullArchiveSchema.safeParse(kept);
  if (pulls && !pulls.success) throw new UsageError(`The pulls in “${jobFile}” can’t be read: ${describeIssues(pulls.error)}.`);
  const recipes = recipesAt(jobFile);
  const paths = facePaths(facesIn);
  const bytes = await packJob(job, pulls?.data, {
    face: async (id) => {
      const listed = paths.get(id);
      if (!listed) return undefined;
      const face = await openFontFile(listed.path);
      try {
        const { family, style, installable } = face;
        const licence = listed.licence === undefined || !existsSync(listed.licence) ? undefined : readFileSync(listed.licence, 'utf8');
        return { family, style, installable, bytes: readBytes(listed.path), licence };
      } finally {
        face.dispose();
      }
    },
    picture: (id) => {
      const found = pictureFile(picturesIn ?? picturesBeside(jobFile), id);
      return Promise.resolve(found && { type: found.type, bytes: readBytes(found.path) });
    },
    recipe: (id) => Promise.resolve(recipes.find((one) => one.id === id)),
  });
  return { bytes, notes: toldOfLeft(openPackage(bytes).left) };
}

/**
 * Puts a package down: its job as a file, its pictures and recipes beside it, and its faces in a folder with a list of them.
 * @returns what people are told.
 */
export function unpackPackage({ job, kept, pictures, recipes, faces, left }: OpenedPackage, jobFile: string, picturesIn: string, facesIn: string): string[] {
  mkdirSync(dirname(jobFile), { recursive: true });
  const archive = kept === undefined ? undefined : pullArchiveSchema.safeParse(kept).data;
  writeFileSync(jobFile, writeJobFile(job, archive));
  const notes = toldOfLeft(left);
  if (kept !== undefined && !archive) notes.push('Its pulls can’t be read, and are left out.');
  for (const { id, type, bytes } of pictures) {
    const name = id.replace(/^demo:/, '');
    const ending = PICTURE_ENDINGS[type];
    // What it is called decides where it is found: a name that leads elsewhere is none.
    if (!/^[\p{L}\p{N}][\p{L}\p{N}._-]*$/u.test(name) || ending === undefined) notes.push(`The picture “${id}” can’t be a file of that name.`);
    else writeIn(picturesIn, extname(name) === ending ? name : name + ending, bytes);
  }
  if (recipes.length > 0) writeRecipes(jobFile, recipes);
  const listed = faces.map(({ id, bytes, licence }, i) => {
    const file = `${i + 1}${fontEnding(bytes)}`;
    writeIn(facesIn, file, bytes);
    if (licence === undefined) return { id, file };
    writeIn(join(facesIn, 'licences'), `${i + 1}.txt`, new TextEncoder().encode(licence));
    return { id, file, licence: `${i + 1}.txt` };
  });
  if (listed.length > 0) writeIn(facesIn, 'faces.json', new TextEncoder().encode(`${JSON.stringify(listed, null, 2)}\n`));
  return notes;
}

function writeIn(folder: string, name: string, bytes: Uint8Array): void {
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, name), bytes);
}

/**
 * Runs work with packages put down among its files: each stands for the job in it, with its pictures, and its faces before those of
 * the folder. What was put down is gone afterwards.
 */
export async function withUnpacked<T>(files: readonly string[], facesIn: string, work: (files: string[], facesIn: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'jentrix-package-'));
  try {
    const faces = join(folder, 'faces');
    const own: { id: string; file: string }[] = [];
    const put = files.map((file, i) => {
      if (!isPackage(file)) return file;
      const at = join(folder, String(i));
      unpackPackage(openedAt(file), join(at, 'job.jentrix.json'), join(at, 'pictures'), join(at, 'faces'));
      if (existsSync(join(at, 'faces'))) for (const [id, { path }] of facePaths(join(at, 'faces'))) own.push({ id, file: relative(faces, path) });
      return join(at, 'job.jentrix.json');
    });
    const others = [...facePaths(facesIn)].map(([id, { path }]) => ({ id, file: relative(faces, path) }));
    // The folder's first face stands in for what is missing, as it does otherwise.
    const [standIn, ...more] = others.map((other) => own.find(({ id }) => id === other.id) ?? other);
    const all = [...(standIn ? [standIn] : []), ...own.filter(({ id }) => id !== standIn?.id), ...more.filter(({ id }) => !own.some((one) => one.id === id))];
    writeIn(faces, 'faces.json', new TextEncoder().encode(JSON.stringify(all)));
    return await work(put, faces);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** @throws UsageError naming the file and what is wrong with it */
export function openedAt(path: string): OpenedPackage {
  try {
    return openPackage(readBytes(path));
  } catch (error) {
    throw error instanceof PackageError ? new UsageError(`“${path}” can’t be opened: ${error.message}`) : error;
  }
}

/** Where the faces of a package go that is put down at a job file. */
export const facesBeside = (jobFile: string, facesIn: string): string => (facesIn === SHIPPED_FACES ? join(dirname(jobFile), 'faces') : facesIn);
