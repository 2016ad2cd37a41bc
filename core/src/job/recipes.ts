/** Recipes: named settings that blocks follow. What a block has otherwise is its override. Pure functions. */
import * as z from 'zod';
import type { StoredKind } from '../stored';
import { findBlock, blocksOfPart, updateBlock } from './edits';
import { PLAIN_PARAGRAPH } from './create';
import { GREEDY, PLAIN_JUSTIFY } from './fit';
import { breakingSchema, edgesSchema, justifySchema } from './fit-schema';
import { type Block, JOB_VERSION, type Job, blockSchema, leadingSchema, paragraphSchema } from './schema';
import { type Style, styleSchema, upgradedStyle } from './style';
import { allBlocks } from './sheets';

export const recipeSettingsSchema = z.strictObject({
  style: styleSchema,
  leading: leadingSchema,
  align: blockSchema.shape.align,
  paragraph: paragraphSchema,
  breaking: breakingSchema,
  justify: justifySchema,
  edges: edgesSchema.nullable(),
});
export type RecipeSettings = z.infer<typeof recipeSettingsSchema>;

/** Recipes as they are stored and handed over. Version 1 is the style of job format 3; since then they follow the job's. */
export const STORED_RECIPE: StoredKind<typeof recipeSettingsSchema> = {
  name: 'recipe',
  version: JOB_VERSION,
  schema: recipeSettingsSchema,
  upgrade: (settings, from) => ({
    breaking: GREEDY,
    justify: PLAIN_JUSTIFY,
    edges: null,
    ...settings,
    style: upgradedStyle(settings['style'], Math.max(3, from)),
  }),
};

export const recipeNameSchema = z.string().trim().min(1).max(80);
export const recipeSchema = z.strictObject({ id: z.string().min(1).max(80), name: recipeNameSchema, settings: recipeSettingsSchema });
export type Recipe = z.infer<typeof recipeSchema>;

/** The settings of a block, to be made a recipe. */
export const settingsOf = ({ style, leading, align, paragraph, breaking, justify, edges }: Block): RecipeSettings => ({
  style,
  leading,
  align,
  paragraph,
  breaking,
  justify,
  edges,
});

/** The settings of a recipe besides the style. */
const WHOLE = ['leading', 'align', 'paragraph', 'breaking', 'justify', 'edges'] as const;

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Settings that say nothing of their own besides style and leading. */
export const plainSettings = (style: Style, leading: RecipeSettings['leading']): RecipeSettings => ({
  style,
  leading,
  align: 'left',
  paragraph: PLAIN_PARAGRAPH,
  breaking: GREEDY,
  justify: PLAIN_JUSTIFY,
  edges: null,
});

/** The settings in which a block departs from a recipe, by name. */
export function recipeOverrides(block: Block, settings: RecipeSettings): string[] {
  const { style } = settings;
  const keys = Object.keys(style) as (keyof typeof style)[];
  return [...keys.filter((key) => !same(block.style[key], style[key])), ...WHOLE.filter((key) => !same(block[key], settings[key]))];
}

/**
 * Has a block follow a recipe in everything; its overrides go. Runs of its own stay. The other blocks of its part follow it too, each in
 * the size it has on its own sheet.
 */
export function applyRecipe(job: Job, blockId: string, { id, settings }: Pick<Recipe, 'id' | 'settings'>): Job {
  const followed = updateBlock(job, blockId, (block) => ({ ...block, ...settings, recipeId: id }));
  const { style, leading, ...rest } = settings;
  return partOf(job, blockId).reduce(
    (next, other) =>
      updateBlock(next, other.id, (block) => {
        const sizePt = block.style.sizePt;
        const led = leading.kind === 'pt' ? { kind: 'pt' as const, pt: (leading.pt * sizePt) / style.sizePt } : leading;
        return { ...block, ...rest, style: { ...style, sizePt }, leading: led, recipeId: id };
      }),
    followed,
  );
}

/** Lets a block and the others of its part go their own way, looking as they do. */
export const leaveRecipe = (job: Job, blockId: string): Job =>
  [blockId, ...partOf(job, blockId).map(({ id }) => id)].reduce(
    (next, id) => updateBlock(next, id, (block) => (block.recipeId === null ? block : { ...block, recipeId: null })),
    job,
  );

/** The other blocks of a block's part. */
function partOf(job: Job, blockId: string): Block[] {
  const block = findBlock(job, blockId);
  return block ? blocksOfPart(job, block) : [];
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
        const followed = WHOLE.filter((key) => same(block[key], before[key])).map((key) => [key, after[key]] as const);
        return { ...block, style, ...Object.fromEntries(followed) };
      }),
    job,
  );
}
