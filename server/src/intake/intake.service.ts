import { extname } from 'node:path';
import { readFile } from 'node:fs/promises';
import { READERS } from '@jentrix/core/intake';
import { isZip } from '@jentrix/core/package';
import { onlyJob } from '../http/parse';
import { ProblemError } from '../http/problem';
import type { FaceLibrary } from '../faces/face-library';
import type { JobsService, StoredJob } from '../jobs/jobs.service';
import type { PackagesService } from '../packages/packages.service';
import type { PicturesService } from '../pictures/pictures.service';
import type { Workshop } from '../pool/workshop';
import type { RecipesService } from '../recipes/recipes.service';
import { unknownKind } from './take-file';
import { intakeTasks } from './tasks';

/** Stands for the picture until it is kept and has its own name. */
const PICTURE = 'picture-underneath';

export interface IntakeParts {
  workshop: Workshop;
  jobs: JobsService;
  pictures: PicturesService;
  library: FaceLibrary;
  recipes: RecipesService;
  packages: PackagesService;
}

/** Files of other kinds, as jobs. */
export class IntakeService {
  constructor(private readonly parts: IntakeParts) {}

  /** Puts a file, or the job of a package, on the shelf. @returns what people are told besides. @throws ProblemError 409, 415, 422 */
  async shelve(name: string, bytes: Buffer): Promise<{ job: StoredJob; notes: string[] }> {
    if (isZip(bytes) || mayBePackage(name)) return this.parts.packages.take(bytes);
    const { job, notes } = await this.read(name, bytes);
    return { job: await this.parts.jobs.createFrom(onlyJob(job)), notes };
  }

  /** A file as a job, as JSON, which is not kept; its picture and new recipes are. @param sheet that blocks without a place of their own stand on, in points. @throws ProblemError 415, 422 */
  async read(name: string, bytes: Buffer, sheet?: { widthPt: number; heightPt: number }): Promise<{ job: string; notes: string[] }> {
    const { workshop, library, recipes, pictures } = this.parts;
    const ending = extname(name);
    if (!READERS.some(({ extensions }) => extensions.includes(ending.toLowerCase()))) throw unknownKind(name);
    const { items, standInId } = await library.list();
    const faces = await library.paths(items.map(({ id }) => id));
    const title = name.slice(0, -ending.length).trim().slice(0, 200) || 'Untitled';
    const pictureOut = workshop.spool.fresh();
    try {
      const input = { name, title, faces, standInId, pictureOut, pictureId: PICTURE, recipes: await recipes.list(), sheet };
      const taken = await workshop.spool.lend(bytes, (path) => workshop.run(intakeTasks.importUpload, { ...input, path }));
      let { job } = taken;
      if (taken.picture) job = job.replaceAll(`"pictureId":"${PICTURE}"`, `"pictureId":"${(await pictures.keep(await readFile(pictureOut))).id}"`);
      const notes = [...taken.notes];
      const kept: string[] = [];
      for (const recipe of taken.recipes) {
        try {
          await recipes.create(recipe.name, recipe.settings, recipe.id);
          kept.push(`“${recipe.name}”`);
        } catch (error) {
          if (!(error instanceof ProblemError && error.status === 409)) throw error;
          // Blocks look as they do, and follow none.
          job = job.replaceAll(`"recipeId":"${recipe.id}"`, '"recipeId":null');
        }
      }
      if (kept.length > 0) notes.push(`New among the recipes: ${kept.join(', ')}. Change one, and all its blocks change.`);
      return { job, notes };
    } finally {
      await workshop.spool.discard(pictureOut);
    }
  }
}

/** Whether a file may be a package, by its name: these are larger. */
export const mayBePackage = (name: string): boolean => name.toLowerCase().endsWith('.zip');
