import { randomUUID } from 'node:crypto';
import type { Followers } from '@jentrix/core/api';
import { type Recipe, type RecipeSettings, STORED_RECIPE } from '@jentrix/core/job';
import { fromStored, toStored } from '@jentrix/core/stored';
import type { DataSource, Repository } from 'typeorm';
import type { RunStatement } from '../database/atomically';
import { ProblemError, notFound } from '../http/problem';
import type { JobsService } from '../jobs/jobs.service';
import { RecipeEntity } from './recipe.entity';

const MOST_RECIPES = 500;

/** Recipes, and the jobs whose blocks follow them. */
export class RecipesService {
  private readonly rows: Repository<RecipeEntity>;

  constructor(
    dataSource: DataSource,
    private readonly jobs: JobsService,
  ) {
    this.rows = dataSource.getRepository(RecipeEntity);
  }

  async list(): Promise<Recipe[]> {
    const rows = await this.rows.find({ order: { name: 'ASC', id: 'ASC' } });
    return rows.flatMap((row) => {
      try {
        return [recipeOf(row)];
      } catch (error) {
        // One that can’t be read costs no other.
        console.error(`The recipe “${row.name}” is left out: ${error instanceof Error ? error.message : String(error)}`);
        return [];
      }
    });
  }

  /** @param id a fresh one. @throws ProblemError 409 for a name that is taken, or too many recipes */
  async create(name: string, settings: RecipeSettings, id: string = randomUUID()): Promise<Recipe> {
    if ((await this.rows.count()) >= MOST_RECIPES) throw new ProblemError(409, 'too-many-recipes', 'Too many recipes', `There are ${MOST_RECIPES} already.`);
    const recipe = { id, name, settings };
    await nameFree(name, () => this.rows.insert({ ...recipe, settings: settingsText(settings) }));
    return recipe;
  }

  /**
   * Changes a recipe, and the blocks that follow it in every job but one that the caller sees to itself.
   * @returns the recipe and how many jobs changed. @throws ProblemError 404, 409
   */
  async change(id: string, name: string, settings: RecipeSettings, exceptJob: string | undefined): Promise<{ recipe: Recipe; changedJobs: number }> {
    const before = await this.find(id);
    const also = (run: RunStatement): void => {
      if (run('UPDATE "recipe" SET "name" = ?, "settings" = ? WHERE "id" = ?', name, settingsText(settings), id) !== 1) throw notFound('recipe');
    };
    const change = { kind: 'recipe' as const, recipeId: id, before: before.settings, after: settings };
    const changedJobs = await nameFree(name, () => this.jobs.changeUsers('recipe', id, change, also, exceptJob));
    return { recipe: { id, name, settings }, changedJobs };
  }

  /** The recipes in a face: their names, and the statements that give them another. */
  async usingFace(faceId: string): Promise<{ names: string[]; replace: (run: RunStatement, by: string) => void }> {
    const rows = (await this.rows.find()).filter(({ settings }) => settings.includes(`"faceId":"${faceId}"`));
    return {
      names: rows.map(({ name }) => name),
      replace: (run, by) => {
        for (const { id, settings: text } of rows) {
          const settings = settingsFrom(text);
          run('UPDATE "recipe" SET "settings" = ? WHERE "id" = ?', settingsText({ ...settings, style: { ...settings.style, faceId: by } }), id);
        }
      },
    };
  }

  /** The jobs whose blocks follow a recipe. @throws ProblemError 404 */
  async followers(id: string): Promise<Followers> {
    await this.find(id);
    const jobs: Followers['jobs'] = [];
    for (const { id: jobId, title, document } of await this.jobs.storedUsing('recipe', id)) {
      // Each block says once which recipe it follows.
      jobs.push({ id: jobId, title, blocks: document.split(`"recipeId":"${id}"`).length - 1 });
    }
    return { jobs };
  }

  /** Takes a recipe away; the blocks that followed it stay as they look. @throws ProblemError 404 */
  async remove(id: string): Promise<void> {
    await this.find(id);
    await this.jobs.changeUsers('recipe', id, { kind: 'leave-recipe', recipeId: id }, (run) => {
      if (run('DELETE FROM "recipe" WHERE "id" = ?', id) !== 1) throw notFound('recipe');
    });
  }

  private async find(id: string): Promise<Recipe> {
    const row = await this.rows.findOneBy({ id });
    if (!row) throw notFound('recipe');
    return recipeOf(row);
  }
}

/** Writes a name; the index of names decides whether it is free. @throws ProblemError 409 */
async function nameFree<T>(name: string, write: () => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'SQLITE_CONSTRAINT_UNIQUE')) throw error;
    throw new ProblemError(409, 'name-taken', 'The name is taken', `There is a recipe “${name}” already.`);
  }
}

/** @throws StoredError */
const recipeOf = ({ id, name, settings }: RecipeEntity): Recipe => ({ id, name, settings: settingsFrom(settings) });

/** Settings as they are stored. */
export const settingsText = (settings: RecipeSettings): string => JSON.stringify(toStored(STORED_RECIPE, settings));

/** Stored settings, brought up to date. @throws StoredError */
export function settingsFrom(text: string): RecipeSettings {
  return fromStored(STORED_RECIPE, JSON.parse(text));
}
