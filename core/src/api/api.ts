/** What server and page say to each other; written once, checked on both sides. */
import { z } from 'zod';
import { JOB_KINDS, jobSchema } from '../job';

/** A job as the shelf lists it. */
export const jobSummarySchema = z.object({
  id: z.string(),
  title: z.string(),
  kind: z.enum(JOB_KINDS),
  revision: z.int(),
  sheetCount: z.int(),
  /** Width over height of the first sheet, for the thumbnail. */
  aspect: z.number(),
  createdAt: z.string(),
  updatedAt: z.string(),
  deletedAt: z.string().nullable(),
});
export type JobSummary = z.infer<typeof jobSummarySchema>;

export const jobPageSchema = z.object({ items: z.array(jobSummarySchema), total: z.int(), page: z.int(), pageSize: z.int() });
export type JobPage = z.infer<typeof jobPageSchema>;

/** A job with the revision it is at; every write names the revision it is based on. */
export const jobRecordSchema = z.object({ id: z.string(), revision: z.int(), updatedAt: z.string(), job: jobSchema });
export type JobRecord = z.infer<typeof jobRecordSchema>;

/** The body of a write. */
export const jobBodySchema = z.strictObject({ job: z.unknown() });

const SORTS = ['updatedAt', 'createdAt', 'title', 'kind'] as const;

/** Query of the job list; `q` searches titles. */
export const jobQuerySchema = z.object({
  page: z.coerce.number().int().min(1).max(1_000_000).default(1),
  pageSize: z.coerce.number().int().min(1).max(100).default(24),
  sort: z.enum(SORTS).default('updatedAt'),
  order: z.enum(['asc', 'desc']).default('desc'),
  q: z.string().max(200).default(''),
  trash: z.enum(['true', 'false']).default('false'),
});
export type JobQuery = z.input<typeof jobQuerySchema>;

/** A face the server can serve. */
export const faceEntrySchema = z.object({
  id: z.string(),
  family: z.string(),
  style: z.string(),
  licence: z.string(),
});
export type FaceEntry = z.infer<typeof faceEntrySchema>;
export const faceListSchema = z.object({ items: z.array(faceEntrySchema), standInId: z.string() });
export type FaceList = z.infer<typeof faceListSchema>;

/** Query of an SVG export. */
export const svgQuerySchema = z.object({ letters: z.enum(['outlines', 'text']).default('outlines') });
/** Query of a PNG export: pixels per CSS pixel. */
export const pngQuerySchema = z.object({
  scale: z.coerce
    .number()
    .pipe(z.union([z.literal(1), z.literal(2), z.literal(3)]))
    .default(1),
});

/** RFC 9457 problem details. */
export const problemSchema = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string().optional(),
});
export type Problem = z.infer<typeof problemSchema>;

/** What a refused write carries: the revision that is current. */
export const staleProblemSchema = problemSchema.extend({ current: jobRecordSchema });
