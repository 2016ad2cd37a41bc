import { readFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import type { Recipe, Use } from '@jentrix/core/job';
import type { ExportedFile, ExportsService } from '../exports/exports.service';
import type { FaceLibrary } from '../faces/face-library';
import { ProblemError } from '../http/problem';
import type { JobsService, StoredJob } from '../jobs/jobs.service';
import type { PicturesService } from '../pictures/pictures.service';
import type { Workshop } from '../pool/workshop';
import type { PullsService } from '../pulls/pulls.service';
import type { RecipesService } from '../recipes/recipes.service';
import type { Names, PutDown } from './take-package';
import { packageTasks } from './tasks';

export interface PackageParts {
  workshop: Workshop;
  jobs: JobsService;
  pulls: PullsService;
  pictures: PicturesService;
  library: FaceLibrary;
  recipes: RecipesService;
}

/** Jobs with all they rest on, out and in. */
export class PackagesService {
  constructor(
    private readonly parts: PackageParts,
    private readonly exports: Pick<ExportsService, 'made'>,
  ) {}

  /** A job as a package. @throws ProblemError 413, 422 */
  async make(stored: StoredJob): Promise<ExportedFile> {
    const { jobs, pulls, pictures, library, recipes, workshop } = this.parts;
    const uses = [...(await jobs.usesOf(stored.id)), ...(await pulls.usesOf(stored.id))];
    const named = (wanted: Use['kind']): string[] => [...new Set(uses.filter(({ kind }) => kind === wanted).map(({ id }) => id))];
    const input = {
      document: stored.document,
      pulls: await pulls.archive(stored.id),
      faces: await library.paths(named('face')),
      licences: await library.licences(named('face')),
      pictures: await pictures.paths(named('picture')),
      recipes: (await recipes.list()).filter(({ id }) => named('recipe').includes(id)),
    };
    return this.exports.made((out) => workshop.run(packageTasks.packPackage, { ...input, out }));
  }

  /**
   * Puts the job of a package on the shelf, with its pulls; what it rests on is kept where it is not here already.
   * @returns what people are told besides. @throws ProblemError 409, 422; nothing is on the shelf then
   */
  async take(bytes: Buffer): Promise<{ job: StoredJob; notes: string[] }> {
    const { workshop } = this.parts;
    const { spool } = workshop;
    const out = spool.fresh();
    const taken = await spool.lend(bytes, (path) => workshop.run(packageTasks.takePackage, { path, out }));
    const { document, kept, faces, pictures, recipes, title } = taken;
    const notes = [...taken.notes];
    try {
      const names: Names[number][] = [];
      for (const face of faces) names.push({ kind: 'face', id: face.id, to: await this.face(face, notes) });
      for (const picture of pictures) names.push({ kind: 'picture', id: picture.id, to: (await this.parts.pictures.keep(await readFile(picture.path))).id });
      for (const recipe of recipes) names.push({ kind: 'recipe', id: recipe.id, to: await this.recipe(recipe, title, notes) });
      const filed = await workshop.run(packageTasks.filePackage, { document, kept, names });
      return { job: this.parts.jobs.createFiled(filed), notes };
    } finally {
      await spool.discard(...[...faces, ...pictures].map(({ path }) => path));
    }
  }

  /** The id of a face here; it is imported where it is missing. A font that can't be used is told of, and stood in for. */
  private async face({ id, digest, path, name }: PutDown, notes: string[]): Promise<string> {
    const { library } = this.parts;
    const known = await library.file(id);
    if (known !== undefined && sha256(await readFile(known)) === digest) return id;
    try {
      return (await library.upload(await readFile(path))).entry.id;
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      notes.push(`The face “${name}” can’t be used: ${error.message} A substitute is used.`);
      return id;
    }
  }

  /** The id of a recipe here: the one that says the same, or a new one; null where there is no room for one. */
  private async recipe(recipe: Recipe, title: string, notes: string[]): Promise<string | null> {
    const { recipes } = this.parts;
    const there = await recipes.list();
    const says = (one: Recipe): string => JSON.stringify(one.settings);
    const same =
      there.find((one) => one.id === recipe.id && says(one) === says(recipe)) ?? there.find((one) => one.name === recipe.name && says(one) === says(recipe));
    if (same) return same.id;
    for (const name of [recipe.name, `${recipe.name}, ${title}`.slice(0, 80), ...[2, 3, 4, 5].map((n) => `${recipe.name.slice(0, 70)} (${n})`)]) {
      if (there.some((one) => one.name.toLowerCase() === name.toLowerCase())) continue;
      try {
        const made = await recipes.create(name, recipe.settings);
        if (name !== recipe.name) notes.push(`The recipe “${recipe.name}” is another here; that of the package is “${name}”.`);
        return made.id;
      } catch (error) {
        if (!(error instanceof ProblemError && error.status === 409)) throw error;
      }
    }
    notes.push(`There is no room for the recipe “${recipe.name}”: the blocks look as they did, and follow none.`);
    return null;
  }
}

const sha256 = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
