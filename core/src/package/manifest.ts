/** The manifest of a package: its files with what tells them from others, and what of its job it does not hold. */
import * as z from 'zod';
import type { UseKind } from '../job';
import type { StoredKind } from '../stored';

export const MANIFEST_FILE = 'manifest.json';
export const JOB_FILE = 'job.jentrix.json';
export const RECIPES_FILE = 'recipes.json';

/** An identifier in a job, at its greatest length. */
const nameSchema = z.string().min(1).max(80);
const NAMED = String.raw`(faces|pictures|licences)/[\p{L}\p{N}][\p{L}\p{N}._ -]{0,120}`;
/** A file in one of the folders a package has: no path leads out of it. */
const pathSchema = z.string().regex(new RegExp(`^${NAMED}$`, 'u'));
const anyPath = z.string().regex(new RegExp(`^(${NAMED}|job\\.jentrix\\.json|recipes\\.json)$`, 'u'));
const text = z.string().max(400);
const KINDS = ['face', 'picture', 'recipe'] as const satisfies readonly UseKind[];

export const manifestSchema = z.strictObject({
  format: z.literal('jentrix.package'),
  title: text,
  /** SHA-256 of every other file, in hexadecimal, by its path. */
  files: z.record(anyPath, z.string().regex(/^[0-9a-f]{64}$/)),
  /** Faces by what the job calls them; `licence` is a file too, where there is one. */
  faces: z.array(z.strictObject({ id: nameSchema, file: pathSchema, family: text, style: text, licence: pathSchema.optional() })).max(500),
  pictures: z.array(z.strictObject({ id: nameSchema, file: pathSchema, type: z.string().max(80) })).max(500),
  /** Things the job names and the package does not hold. */
  left: z.array(z.strictObject({ kind: z.enum(KINDS), id: nameSchema, name: text, why: text })).max(2000),
});
export type Manifest = z.infer<typeof manifestSchema>;

export const STORED_MANIFEST: StoredKind<typeof manifestSchema> = { name: 'package', version: 1, schema: manifestSchema, upgrade: (value) => value };
