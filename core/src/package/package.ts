/**
 * A package: a job with all it rests on in one ZIP, which opens anywhere and checks itself. It holds the job file with its pulls, the
 * pictures, the recipes that are followed, and the faces whose makers let them be passed on, each with its licence.
 */
import { createHash } from 'node:crypto';
import { type Unzipped, strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { FileError } from '../base';
import { type JobFile, MAX_JOB_FILE, openJobFile } from '../formats/job-file';
import { packageFormat } from '../formats/job-formats';
import { type Recipe, STORED_RECIPE, recipeNameSchema } from '../job';
import { StoredError, fromStored, toStored } from '../stored';
import { JOB_FILE, MANIFEST_FILE, type Manifest, RECIPES_FILE, STORED_MANIFEST } from './manifest';

export const PACKAGE_EXTENSION = packageFormat.extension;

/** True for the bytes of a ZIP, which a package is: whatever its file is called (APPNOTE.TXT, section 4.3.7). */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 3 || bytes[2] === 5);

/** Largest package, and how much its files are unpacked, in bytes. */
export const MAX_PACKAGE = 128 * 1024 * 1024;
const MAX_UNPACKED = 256 * 1024 * 1024;
const MAX_FILES = 2000;

/** A package can't be read or made; the message is for people. */
export class PackageError extends FileError {
  override readonly name = 'PackageError';
}

export interface PackedFace {
  id: string;
  family: string;
  style: string;
  bytes: Uint8Array;
  licence?: string | undefined;
}

export interface PackedPicture {
  id: string;
  /** Media type. */
  type: string;
  bytes: Uint8Array;
}

/** The parts of a package. */
export interface PackageContents {
  title: string;
  /** Text of the job file. */
  job: string;
  recipes: readonly Recipe[];
  faces: readonly PackedFace[];
  pictures: readonly PackedPicture[];
  left: Manifest['left'];
}

/** The contents of a package, checked. */
export interface OpenedPackage extends Omit<PackageContents, 'job' | 'recipes'>, JobFile {
  recipes: Recipe[];
}

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** A name for a file that says what it is, and that no other file has. */
const fileOf = (folder: string, index: number, name: string, ending: string): string => {
  const letters = Array.from(name.normalize('NFKC').replace(/[^\p{L}\p{N}._-]+/gu, '-'));
  return `${folder}/${index + 1}-${letters.slice(0, 60).join('')}${ending}`;
};

/** Endings of picture files by their media types. */
export const PICTURE_ENDINGS: Readonly<Record<string, string>> = { 'image/svg+xml': '.svg', 'image/png': '.png', 'image/jpeg': '.jpg', 'image/webp': '.webp' };

/** How a font file is called by what it begins with (OpenType 1.9.1, WOFF 2.0). */
export function fontEnding(bytes: Uint8Array): string {
  const tag = strFromU8(bytes.subarray(0, 4), true);
  return { OTTO: '.otf', wOFF: '.woff', wOF2: '.woff2' }[tag] ?? '.ttf';
}

/** The earliest time a ZIP can state: the same contents give the same file. */
const NO_DATE = new Date(1980, 0, 1);

/** @throws PackageError where it would be larger than is read */
export function writePackage({ title, job, recipes, faces, pictures, left }: PackageContents): Uint8Array {
  if (job.length > MAX_JOB_FILE) throw new PackageError('With its pulls the job is larger than a job file may be. Delete some pulls.');
  const files = new Map<string, Uint8Array>([
    [JOB_FILE, strToU8(job)],
    [RECIPES_FILE, strToU8(recipesText(recipes))],
  ]);
  const put = (path: string, bytes: Uint8Array): string => {
    files.set(path, bytes);
    return path;
  };
  const licences = new Map<string, string>();
  const licenceFile = (text: string): string => {
    const known = licences.get(text) ?? put(`licences/${licences.size + 1}.txt`, strToU8(text));
    licences.set(text, known);
    return known;
  };
  const listed = {
    faces: faces.map(({ id, family, style, bytes, licence }, i) => ({
      id,
      file: put(fileOf('faces', i, `${family} ${style}`, fontEnding(bytes)), bytes),
      family,
      style,
      ...(licence === undefined ? {} : { licence: licenceFile(licence) }),
    })),
    pictures: pictures.map(({ id, type, bytes }, i) => ({ id, file: put(fileOf('pictures', i, id, PICTURE_ENDINGS[type] ?? ''), bytes), type })),
  };
  const manifest: Manifest = {
    format: 'jentrix.package',
    title,
    files: Object.fromEntries([...files].map(([path, bytes]) => [path, sha256(bytes)])),
    ...listed,
    left,
  };
  // What is written can be read.
  if (!STORED_MANIFEST.schema.safeParse(manifest).success) throw new PackageError('It names more things than a package holds.');
  const entries = [[MANIFEST_FILE, strToU8(`${JSON.stringify(toStored(STORED_MANIFEST, manifest), null, 2)}\n`)] as const, ...files];
  const unpacked = entries.reduce((sum, [, { length }]) => sum + length, 0);
  if (unpacked > MAX_UNPACKED) throw new PackageError(`The package would hold ${megabytes(unpacked)}; at most ${megabytes(MAX_UNPACKED)} are read.`);
  // Pictures of pixels are packed already.
  const zip = zipSync(Object.fromEntries(entries.map(([path, bytes]) => [path, [bytes, { level: /\.(png|jpg|webp|woff2?)$/.test(path) ? 0 : 6 }]])), {
    mtime: NO_DATE,
  });
  if (zip.length > MAX_PACKAGE) throw new PackageError(`The package would have ${megabytes(zip.length)}; at most ${megabytes(MAX_PACKAGE)} are read.`);
  return zip;
}

const megabytes = (bytes: number): string => `${Math.ceil(bytes / 1024 / 1024)} MB`;

/**
 * Opens a package, and checks every file in it.
 * @throws PackageError, JobFormatError saying what is wrong with it
 */
export function openPackage(zip: Uint8Array): OpenedPackage {
  const files = unpacked(zip);
  const bytesAt = (path: string): Uint8Array => {
    const bytes = Object.hasOwn(files, path) ? files[path] : undefined;
    if (!bytes) throw new PackageError(`“${path}” is missing in the package.`);
    return bytes;
  };
  const jsonAt = (path: string): unknown => {
    try {
      return JSON.parse(textOf(bytesAt(path)));
    } catch (error) {
      if (error instanceof PackageError) throw error;
      throw new PackageError(`“${path}” in the package is not JSON.`);
    }
  };
  if (!Object.hasOwn(files, MANIFEST_FILE)) throw new PackageError('The ZIP is no package: it has no manifest.');
  const manifest = readAs(() => fromStored(STORED_MANIFEST, jsonAt(MANIFEST_FILE)));
  for (const [path, digest] of Object.entries(manifest.files))
    if (sha256(bytesAt(path)) !== digest) throw new PackageError(`“${path}” in the package is not what it was when it was packed: it is damaged.`);
  for (const path of Object.keys(files))
    if (path !== MANIFEST_FILE && !Object.hasOwn(manifest.files, path)) throw new PackageError(`“${path}” does not belong into the package.`);
  const listed = <T extends { file: string }>(one: T): T & { bytes: Uint8Array } => ({ ...one, bytes: bytesAt(one.file) });
  return {
    title: manifest.title,
    ...openJobFile(textOf(bytesAt(JOB_FILE))),
    recipes: recipesIn(jsonAt(RECIPES_FILE)),
    faces: manifest.faces.map(listed).map(({ id, family, style, bytes, licence }) => ({
      id,
      family,
      style,
      bytes,
      licence: licence === undefined ? undefined : textOf(bytesAt(licence)),
    })),
    pictures: manifest.pictures.map(listed).map(({ id, type, bytes }) => ({ id, type, bytes })),
    left: manifest.left,
  };
}

/** @throws PackageError */
function unpacked(zip: Uint8Array): Unzipped {
  if (zip.length > MAX_PACKAGE) throw new PackageError(`The package has ${megabytes(zip.length)}; at most ${megabytes(MAX_PACKAGE)} are read.`);
  let [count, total] = [0, 0];
  try {
    return unzipSync(zip, {
      filter: ({ originalSize }) => {
        if (++count > MAX_FILES) throw new PackageError(`The package holds more than ${MAX_FILES} files.`);
        // What is unpacked has no more room than is stated here.
        if ((total += originalSize) > MAX_UNPACKED) throw new PackageError(`The package unpacks to more than ${megabytes(MAX_UNPACKED)}.`);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof PackageError) throw error;
    throw new PackageError(`The file is no ZIP, or was cut off: ${error instanceof Error ? error.message : 'it can’t be read'}.`);
  }
}

/** @throws PackageError */
function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new PackageError('A text in the package is not UTF-8.');
  }
}

/** Recipes as a file of their own; `recipesIn` reads what is in it. */
export const recipesText = (recipes: readonly Recipe[]): string =>
  `${JSON.stringify(
    recipes.map(({ id, name, settings }) => ({ id, name, settings: toStored(STORED_RECIPE, settings) })),
    null,
    2,
  )}\n`;

/** @throws PackageError */
export function recipesIn(value: unknown): Recipe[] {
  if (!Array.isArray(value)) throw new PackageError('The recipes in the package can’t be read.');
  return (value as unknown[]).map((one): Recipe => {
    const { id, name, settings } = (one ?? {}) as Record<string, unknown>;
    const named = recipeNameSchema.safeParse(name);
    if (typeof id !== 'string' || id === '' || id.length > 80 || !named.success) throw new PackageError('A recipe in the package has no name.');
    return { id, name: named.data, settings: readAs(() => fromStored(STORED_RECIPE, settings)) };
  });
}

/** @throws PackageError with what a stored thing is refused for */
function readAs<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    throw error instanceof StoredError ? new PackageError(error.message) : error;
  }
}
