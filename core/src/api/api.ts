/** The schemas that server and page share. */
import * as z from 'zod';
import { JOB_KINDS, type RecipeSettings, STORED_RECIPE, jobSchema, recipeNameSchema, recipeSchema } from '../job';
// From its own file: the page would load all of the folder with it.
import { FACE_KINDS, FOUND_KINDS } from '../advice/anatomy';
import { PULL_REASONS } from '../pulls/pulls';
import { fromStored } from '../stored';

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

/** An event of a job somebody listens to: it was written, and is at this revision now. */
export const jobEventSchema = z.object({ revision: z.int() });

const windowName = z.string().min(1).max(80);
/** Who listens to a job, so that others are told of them: a window, and the browser it is of. */
export const listenQuerySchema = z.object({ window: windowName.optional(), browser: windowName.optional() });
/** A window's report of itself: where it is, whether it is in sight, or that it leaves. */
export const hereBodySchema = z.object({
  window: windowName,
  browser: windowName,
  blockId: z.string().max(80).nullable(),
  state: z.enum(['shown', 'hidden', 'left']),
});
export type HereBody = z.infer<typeof hereBodySchema>;
/** Somebody else who has the job open: another window of the same browser, or another person, and the block they are at. */
export const otherSchema = z.object({ who: z.enum(['window', 'person']), blockId: z.string().nullable() });
export type Other = z.infer<typeof otherSchema>;
/** An event `here` of a job: everybody else who has it open. */
export const hereEventSchema = z.object({ others: z.array(otherSchema) });

/** A job with the revision it is at; every write names the revision it is based on. */
export const jobRecordSchema = z.object({ id: z.string(), revision: z.int(), updatedAt: z.string(), job: jobSchema });
export type JobRecord = z.infer<typeof jobRecordSchema>;

/** The answer to a write: the job is there as it was sent. */
export const savedSchema = jobRecordSchema.omit({ job: true });
export type Saved = z.infer<typeof savedSchema>;

/** Why a copy of all data was made: once a day, before an upgrade of the database, before a restore, or because somebody asked. */
export const BACKUP_REASONS = ['daily', 'before-upgrade', 'before-restore', 'by-hand'] as const;
export type BackupReason = (typeof BACKUP_REASONS)[number];
export const backupSchema = z.object({
  name: z.string().describe('Of its file'),
  createdAt: z.string(),
  bytes: z.int(),
  reason: z.enum(BACKUP_REASONS),
});
export type Backup = z.infer<typeof backupSchema>;
export const backupListSchema = z.object({ items: z.array(backupSchema) });

/** A file that was put on the shelf as a job: what it is called there, and what people are told of it. */
export const takenSchema = z.object({ id: z.string(), notes: z.array(z.string()) });

/** A file read as a job that is not kept, and what people are told of it. */
export const readFileSchema = z.object({ job: jobSchema, notes: z.array(z.string()) });
export type ReadFile = z.infer<typeof readFileSchema>;

/** The body of a write. */
export const jobBodySchema = z.strictObject({ job: z.unknown() });

/** A kept state of a job, as lists have it. */
export const pullSchema = z.object({
  id: z.string(),
  name: z.string(),
  reason: z.enum(PULL_REASONS),
  createdAt: z.string(),
  /** Its measure; null until it was asked for, evenness also where there are too few pairs. */
  evenness: z.number().nullable(),
  findings: z.int().nullable(),
});
export type Pull = z.infer<typeof pullSchema>;
export const pullListSchema = z.object({ items: z.array(pullSchema) });
/** A pull with the job as it was. */
export const pullRecordSchema = z.object({ pull: pullSchema, job: jobSchema });

/** Query of a proof to send: the pull that is shown beside the sheet. */
export const proofQuerySchema = z.object({ pull: z.string().max(80).optional() });

/** A job's measures: evenness is null where there are too few pairs. */
export const jobMeasureSchema = z.object({ evenness: z.number().nullable(), findings: z.int() });
export type JobMeasure = z.infer<typeof jobMeasureSchema>;

const pullNameSchema = z.string().trim().max(80);
/** The body of a new pull. */
export const pullBodySchema = z.strictObject({ job: z.unknown(), name: pullNameSchema.default(''), reason: z.enum(PULL_REASONS).default('hand') });
export const pullChangeSchema = z.strictObject({ name: pullNameSchema });

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

/** The anatomy of a face as `measureAnatomy` gives it. */
export const anatomySchema = z.object({
  kind: z.enum(FACE_KINDS),
  stem: z.number(),
  contrast: z.number(),
  width: z.number(),
  xHeight: z.number(),
  capHeight: z.number(),
  condensed: z.boolean(),
  // Faces that were imported before it was measured.
  display: z.boolean().default(false),
});

export const axisSchema = z.object({ tag: z.string(), name: z.string(), min: z.number(), default: z.number(), max: z.number() });

const faceFields = {
  id: z.string(),
  family: z.string(),
  style: z.string(),
  licence: z.string(),
  anatomy: anatomySchema,
  /** `OS/2` usWeightClass, 1 to 1000. */
  weight: z.number(),
  italic: z.boolean(),
  /** How far upright strokes lean to the right, in degrees. */
  slopeDeg: z.number(),
  axes: z.array(axisSchema),
  /** Tags of the OpenType features the file has. */
  features: z.array(z.string()),
};

/** A face at hand. */
export const faceEntrySchema = z.object({ ...faceFields, source: z.enum(['shipped', 'catalogue', 'upload']), favourite: z.boolean() });
export type FaceEntry = z.infer<typeof faceEntrySchema>;
export const faceListSchema = z.object({ items: z.array(faceEntrySchema), standInId: z.string() });
export type FaceList = z.infer<typeof faceListSchema>;

/** A face of the catalogue; `atHand` where it is in the type case already. */
export const catalogueEntrySchema = z.object({ ...faceFields, atHand: z.boolean() });
export type CatalogueEntry = z.infer<typeof catalogueEntrySchema>;
export const cataloguePageSchema = z.object({ items: z.array(catalogueEntrySchema), total: z.int(), page: z.int(), pageSize: z.int() });
export type CataloguePage = z.infer<typeof cataloguePageSchema>;

/** Sort orders of faces; all but the name are measured. */
export const FACE_SORTS = ['family', 'stem', 'contrast', 'width', 'xHeight'] as const;

/** Query of the catalogue and of the faces at hand. */
export const catalogueQuerySchema = z.object({
  q: z.string().max(100).default(''),
  kind: z.enum(FOUND_KINDS).optional(),
  condensed: z.enum(['true', 'false']).optional(),
  variable: z.enum(['true', 'false']).optional(),
  sort: z.enum(FACE_SORTS).default('family'),
  order: z.enum(['asc', 'desc']).default('asc'),
  page: z.coerce.number().int().min(1).max(10_000).default(1),
  pageSize: z.coerce.number().int().min(1).max(100).default(18),
});
export type CatalogueQuery = z.input<typeof catalogueQuerySchema>;

/** How the simulated font service misbehaves, to see how the page bears it. */
export const troubleSchema = z.strictObject({ delayMs: z.int().min(0).max(30_000).default(0), failing: z.boolean().default(false) });
export type Trouble = z.infer<typeof troubleSchema>;

export const favouriteSchema = z.strictObject({ favourite: z.boolean() });

export const recipeListSchema = z.object({ items: z.array(recipeSchema) });

/** The body of a new or changed recipe. */
export const recipeBodySchema = z.strictObject({
  name: recipeNameSchema,
  settings: z.unknown().transform((value, context): RecipeSettings => {
    try {
      return fromStored(STORED_RECIPE, value);
    } catch (error) {
      context.addIssue({ code: 'custom', message: error instanceof Error ? error.message : 'can’t be read' });
      return z.NEVER;
    }
  }),
});

/** The reach of a change to a recipe: how many blocks follow it, job by job. */
export const followersSchema = z.object({ jobs: z.array(z.object({ id: z.string(), title: z.string(), blocks: z.int() })) });
export type Followers = z.infer<typeof followersSchema>;

/** Query of a changed recipe: the job that the page updates itself. */
export const recipeUpdateQuerySchema = z.object({ exceptJob: z.string().max(80).optional() });

/** A picture the server keeps. */
export const pictureSchema = z.object({ id: z.string(), type: z.string(), width: z.int(), height: z.int() });
export type Picture = z.infer<typeof pictureSchema>;

/** RFC 9457 problem details. */
export const problemSchema = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string().optional(),
});
export type Problem = z.infer<typeof problemSchema>;

/** The fonts of a collection, of which one is to be chosen: `?font=`. */
export const collectionProblemSchema = problemSchema.extend({ fonts: z.array(z.object({ font: z.int(), family: z.string(), style: z.string() })) });
export type CollectionFont = z.infer<typeof collectionProblemSchema>['fonts'][number];

/** The answer to a refused write: the revision that is current. */
export const staleProblemSchema = problemSchema.extend({ current: jobRecordSchema });
