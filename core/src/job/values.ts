/** Kinds of values that the document's schemas are made of. */
import * as z from 'zod';

/** A list that is counted before any of its items is looked at, so that one far too long costs nothing. */
export const listOf = <T extends z.ZodType>(item: T, most: number, least = 0) =>
  z
    .unknown()
    .refine((value) => !Array.isArray(value) || value.length <= most, { error: `There are more than ${most}.`, abort: true })
    .pipe(z.array(item).min(least).max(most));

/** An OpenType tag: four printable characters (OpenType 1.9.1, data types). */
const tagSchema = z.string().regex(/^[ -~]{4}$/, 'A tag has four printable characters.');

/** Values by tag; counted before any of them is looked at. */
export const byTag = <T extends z.ZodType>(value: T, most: number) =>
  z
    .record(z.string(), z.unknown())
    .refine((values) => Object.keys(values).length <= most, { error: `There are more than ${most} tags.`, abort: true })
    .pipe(z.record(tagSchema, value));

export const finite = z.number();
export const idSchema = z.string().min(1).max(80);
/** 1/1000 em. */
export const milliem = finite.min(-1000).max(5000);

/** `#rrggbb` */
export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is written #rrggbb.');
