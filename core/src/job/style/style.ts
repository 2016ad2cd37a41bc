/** The style of letters, made of the table of its properties. */
import * as z from 'zod';
import { STYLE_PROPERTIES } from './properties';
import type { StyleProperty } from './style-property';

type StyleProperties = typeof STYLE_PROPERTIES;
export type StyleKey = keyof StyleProperties;

/** A table of properties by key, as what all of them have in common. */
export type StyleTable = Readonly<Record<string, StyleProperty>>;

/** Everything that follows from a table of properties. */
export interface StyleKind {
  entries: readonly (readonly [string, StyleProperty])[];
  schema: z.ZodObject;
  defaults: Readonly<Record<string, unknown>>;
  /** A style that was stored by an older version, with the properties that have come since. @param version of the format it was stored in. */
  upgrade(style: Readonly<Record<string, unknown>>, version: number): Record<string, unknown>;
}

export function styleKind(table: StyleTable): StyleKind {
  const entries = Object.entries(table);
  const pick = (part: keyof StyleProperty): Record<string, unknown> => Object.fromEntries(entries.map(([key, definition]) => [key, definition[part]]));
  return {
    entries,
    schema: z.strictObject(pick('schema') as Record<string, z.ZodType>),
    defaults: pick('default'),
    upgrade(style, version) {
      const since = entries.filter(([, definition]) => definition.since > version);
      return { ...Object.fromEntries(since.map(([key, definition]) => [key, definition.default])), ...style };
    },
  };
}

const STYLE = styleKind(STYLE_PROPERTIES);

/** The properties by key. */
export const styleProperties = STYLE.entries as readonly (readonly [StyleKey, StyleProperty])[];

/** How letters look and are spaced. */
export const styleSchema = STYLE.schema as unknown as z.ZodObject<{ [Key in StyleKey]: StyleProperties[Key]['schema'] }, z.core.$strict>;
export type Style = z.infer<typeof styleSchema>;

/** The style new copy has when nothing else says so. */
export const DEFAULT_STYLE = STYLE.defaults as Style;

/** See `StyleKind.upgrade`. */
export const upgradeStyle = (style: Readonly<Record<string, unknown>>, version: number): Record<string, unknown> => STYLE.upgrade(style, version);

const isLoose = (value: unknown): value is Readonly<Record<string, unknown>> => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Like `upgradeStyle`, for something that may be a style; anything else stays as it is, for a schema to refuse. */
export const upgradedStyle = (value: unknown, version: number): unknown => (isLoose(value) ? upgradeStyle(value, version) : value);

/** How a property of the style is named to people; the key itself where there is none of that key. */
export const styleName = (key: string): string => (STYLE_PROPERTIES as Readonly<Record<string, { name: string } | undefined>>)[key]?.name ?? key;
