/** Recipes: named settings that blocks follow. What a block has otherwise is its override. Pure functions. */
import * as z from 'zod';
import type { StoredKind } from '../stored';
import { updateBlock } from './edits';
import { type Block, JOB_VERSION, type Job, blockSchema, leadingSchema, paragraphSchema } from './schema';
import { styleSchema, upgradedStyle } from './style';
import { allBlocks } from './sheets';

export const recipeSettingsSchema = z.strictObject({ style: styleSchema, leading: leadingSchema, align: blockSchema.shape.align, paragraph: paragraphSchema });
export type RecipeSettings = z.infer<typeof recipeSettingsSchema>;

/** Recipes as they are stored and handed over. Version 1 is the style of job format 3; since then they follow the job's. */
export const STORED_RECIPE: StoredKind<typeof recipeSettingsSchema> = {
  name: 'recipe',
  version: JOB_VERSION,
  schema: recipeSettingsSchema,
  upgrade: (settings, from) => ({ ...settings, style: upgradedStyle(settings['style'], Math.max(3, from)) }),
};

export const recipeNameSchema = z.string().trim().min(1).max(80);
export const recipeSchema = z.strictObject({ id: z.string().min(1).max(80), name: recipeNameSchema, settings: recipeSettingsSchema });
export type Recipe = z.infer<typeof recipeSchema>;

/** The settings of a block, to be made a recipe. */
export const settingsOf = ({ style, leading, align, paragraph }: Block): RecipeSettings => ({ style, leading, align, paragraph });

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** What of a block departs from a recipe, by the setting's name. */
export function overridesOf(block: Block, { style, leading, align, paragraph }: RecipeSettings): string[] {
  const keys = Object.keys(style) as (keyof typeof style)[];
  return [
    ...keys.filter((key) => !same(block.style[key], style[key])),
    ...(same(block.leading, leading) ? [] : ['leading']),
    ...(block.align === align ? [] : ['align']),
    ...(same(block.paragraph, paragraph) ? [] : ['paragraph']),
  ];
}

/** Has a block follow a recipe in everything; its overrides go. Runs of its own stay. */
export function applyRecipe(job: Job, blockId: string, { id, settings }: Pick<Recipe, 'id' | 'settings'>): Job {
  return updateBlock(job, blockId, (block) => ({ ...block, ...settings, recipeId: id }));
}

/** Lets a block go its own way, looking as it does. */
export function leaveRecipe(job: Job, blockId: string): Job {
  return updateBlock(job, blockId, (block) => (block.recipeId === null ? block : { ...block, recipeId: null }));
}

/** Lets all blocks that follow a recipe go their own way, looking as they do: the recipe is gone. */
export const leaveEverywhere = (job: Job, recipeId: string): Job => followersOf(job, recipeId).reduce((next, { id }) => leaveRecipe(next, id), job);

/** The blocks of a job that follow a recipe. */
export const followersOf = (job: Job, recipeId: string): Block[] => allBlocks(job).filter((block) => block.recipeId === recipeId);

/** Brings the followers of a recipe up to date after it changed: what they had from it changes with it, overrides stay. */
export function updateFollowers(job: Job, recipeId: string, before: RecipeSettings, after: RecipeSettings): Job {
  return followersOf(job, recipeId).reduce(
    (next, { id }) =>
      updateBlock(next, id, (block) => {
        const style = { ...block.style };
        for (const key of Object.keys(after.style) as (keyof typeof style)[]) {
          if (same(block.style[key], before.style[key])) Object.assign(style, { [key]: after.style[key] });
        }
        return {
          ...block,
          style,
          leading: same(block.leading, before.leading) ? after.leading : block.leading,
          align: block.align === before.align ? after.align : block.align,
          paragraph: same(block.paragraph, before.paragraph) ? after.paragraph : block.paragraph,
        };
      }),
    job,
  );
}
