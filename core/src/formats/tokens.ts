/** Recipes as W3C design tokens (Design Tokens Format Module): typography composites, with the whole recipe beside for Jentrix. */
import * as z from 'zod';
import { WordedError } from '../base';
import { type Recipe, type RecipeSettings, STORED_RECIPE, recipeNameSchema, styleProperties } from '../job';
import { fromStored, toStored } from '../stored';
import { fromPoints, leadingPoints, toPoints } from '../units';

/** Where a token keeps what its composite value has no place for. */
const EXTENSION = 'org.jentrix.recipe';

/** The names of a face outside Jentrix. */
export interface OutsideFace {
  family: string;
  weight: number;
  italic: boolean;
}

const px = (pt: number): { value: number; unit: 'px' } => ({ value: Math.round(fromPoints(pt, 'px') * 1000) / 1000, unit: 'px' });

/** Writes recipes as a token file. @param faceOf names a face outside. */
export function writeTokens(recipes: readonly Recipe[], faceOf: (faceId: string) => OutsideFace): string {
  const tokens: Record<string, unknown> = {};
  for (const { name, settings } of recipes) {
    const { style, leading } = settings;
    const { family, weight } = faceOf(style.faceId);
    tokens[name.replace(/[{}.$]/g, '-')] = {
      $type: 'typography',
      $value: {
        fontFamily: [family],
        fontSize: px(style.sizePt),
        fontWeight: weight,
        letterSpacing: px((style.trackingMilliem * style.sizePt) / 1000),
        lineHeight: Math.round((leadingPoints(leading, style.sizePt) / style.sizePt) * 10_000) / 10_000,
      },
      $extensions: { [EXTENSION]: { name, settings: toStored(STORED_RECIPE, settings) } },
    };
  }
  return `${JSON.stringify(tokens, null, 2)}\n`;
}

/** A token file that can't be read. */
export class TokenError extends WordedError {
  override readonly name = 'TokenError';
}

const dimension = z.object({ value: z.number(), unit: z.enum(['px', 'rem']) });
const tokenSchema = z.object({
  $type: z.literal('typography'),
  $value: z.object({
    fontFamily: z.union([z.string(), z.array(z.string()).min(1)]),
    fontSize: dimension,
    letterSpacing: dimension.optional(),
    lineHeight: z.number().min(0).max(20).optional(),
  }),
  $extensions: z.record(z.string(), z.unknown()).optional(),
});

/** A recipe that came from a token: whole where Jentrix wrote it, else only what the token says. */
export interface ReadToken {
  name: string;
  settings?: RecipeSettings;
  family: string;
  sizePt: number;
  trackingMilliem: number;
  lineHeight: number | undefined;
}

const MOST_TOKENS = 500;

/**
 * Reads the typography tokens of a file, those in groups too (`heading/large`).
 * @throws TokenError for text that is no token file, or holds no typography.
 */
export function readTokens(text: string): ReadToken[] {
  let root: unknown;
  try {
    root = JSON.parse(text);
  } catch {
    throw new TokenError('The file is not JSON.');
  }
  const found: ReadToken[] = [];
  const visit = (value: unknown, path: readonly string[]): void => {
    if (typeof value !== 'object' || value === null || path.length > 12 || found.length >= MOST_TOKENS) return;
    const token = tokenSchema.safeParse(value);
    if (token.success) {
      found.push(readToken(token.data, path.join('/')));
      return;
    }
    for (const [key, inner] of Object.entries(value)) if (!key.startsWith('$')) visit(inner, [...path, key]);
  };
  visit(root, []);
  if (found.length === 0) throw new TokenError('The file holds no typography tokens.');
  return found;
}

function readToken({ $value, $extensions }: z.infer<typeof tokenSchema>, path: string): ReadToken {
  const pt = ({ value, unit }: z.infer<typeof dimension>): number => toPoints(unit === 'rem' ? value * 16 : value, 'px');
  const own = ownRecipe($extensions?.[EXTENSION]);
  const sizePt = Math.min(5000, Math.max(1, pt($value.fontSize)));
  const read: ReadToken = {
    name: own?.name ?? (path.slice(0, 80) || 'token'),
    family: typeof $value.fontFamily === 'string' ? $value.fontFamily : ($value.fontFamily[0] ?? ''),
    sizePt,
    trackingMilliem: $value.letterSpacing ? Math.min(5000, Math.max(-1000, Math.round((pt($value.letterSpacing) * 1000) / sizePt))) : 0,
    lineHeight: $value.lineHeight,
  };
  if (own) read.settings = own.settings;
  return read;
}

/** The recipe Jentrix wrote beside a token, brought up to date; undefined where that is something else. */
function ownRecipe(extension: unknown): { name: string; settings: RecipeSettings } | undefined {
  const read = z.object({ name: recipeNameSchema, settings: z.unknown() }).safeParse(extension);
  if (!read.success) return undefined;
  try {
    return { name: read.data.name, settings: fromStored(STORED_RECIPE, read.data.settings) };
  } catch {
    return undefined;
  }
}

/** Recipes as CSS custom properties (CSS Custom Properties 1). */
export function writeCss(recipes: readonly Recipe[], faceOf: (faceId: string) => OutsideFace): string {
  const lines = recipes.flatMap(({ name, settings: { style, leading, align } }) => {
    const prefix = `--${
      name
        .normalize('NFKD')
        .replace(/\p{M}/gu, '')
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '') || 'recipe'
    }`;
    const { family, weight, italic } = faceOf(style.faceId);
    const features = Object.entries(style.features).map(([tag, value]) => `"${tag.replaceAll('"', '')}" ${value}`);
    return [
      `${prefix}-font-family: "${family.replaceAll(/["\\]/g, '')}";`,
      `${prefix}-font-size: ${px(style.sizePt).value}px;`,
      `${prefix}-font-weight: ${weight};`,
      `${prefix}-font-style: ${italic ? 'italic' : 'normal'};`,
      `${prefix}-line-height: ${Math.round((leadingPoints(leading, style.sizePt) / style.sizePt) * 10_000) / 10_000};`,
      ...styleProperties.flatMap(([key, { css }]) => {
        const [name, value] = css?.(style[key]) ?? [];
        return name === undefined ? [] : [`${prefix}-${name}: ${value};`];
      }),
      `${prefix}-text-align: ${align === 'centre' ? 'center' : align};`,
      ...(features.length > 0 ? [`${prefix}-font-feature-settings: ${features.join(', ')};`] : []),
    ];
  });
  return `:root {\n${lines.map((line) => `  ${line}`).join('\n')}\n}\n`;
}
