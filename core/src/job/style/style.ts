/** The style of letters, made of the table of its properties. */
import * as z from 'zod';
import { STYLE_PROPERTIES } from './properties';
import type { StyleProperty } from './style-property';

type Properties = typeof STYLE_PROPERTIES;
export type StyleKey = keyof Properties;

const KEYS = Object.keys(STYLE_PROPERTIES) as StyleKey[];

/** The properties by key, as what all of them have in common. */
export const styleProperties: readonly (readonly [StyleKey, StyleProperty])[] = KEYS.map((key) => [key, STYLE_PROPERTIES[key] as unknown as StyleProperty]);

const pick = (part: keyof StyleProperty): Record<string, unknown> => Object.fromEntries(styleProperties.map(([key, definition]) => [key, definition[part]]));

/** How letters look and are spaced. */
export const styleSchema = z.strictObject(pick('schema') as { [Key in StyleKey]: Properties[Key]['schema'] });
export type Style = z.infer<typeof styleSchema>;

/** The style new copy has when nothing else says so. */
export const DEFAULT_STYLE = pick('default') as Style;

/**
 * A style that was stored by an older version, with the properties that have come since.
 */
export function upgradeStyle(style: Readonly<Record<string, unknown>>, version: number): Record<string, unknown> {
  const since = styleProperties.filter(([, definition]) => definition.since > version);
  return { ...Object.fromEntries(since.map(([key, definition]) => [key, definition.default])), ...style };
}

const isLoose = (value: unknown): value is Readonly<Record<string, unknown>> => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Like `upgradeStyle`, for something that may be a style; anything else stays as it is, for a schema to refuse. */
export const upgradedStyle = (value: unknown, version: number): unknown => (isLoose(value) ? upgradeStyle(value, version) : value);

/** How a property of the style is named to people; the key itself where there is none of that key. */
export const styleName = (key: string): string => (STYLE_PROPERTIES as Readonly<Record<string, { name: string } | undefined>>)[key]?.name ?? key;
