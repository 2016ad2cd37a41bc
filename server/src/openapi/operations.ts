/** The operations of the server: every address once, with what it takes and answers. The description is made from it. */
import {
  catalogueEntrySchema,
  cataloguePageSchema,
  catalogueQuerySchema,
  collectionProblemSchema,
  faceEntrySchema,
  faceListSchema,
  favouriteSchema,
  followersSchema,
  jobMeasureSchema,
  jobPageSchema,
  jobQuerySchema,
  jobRecordSchema,
  savedSchema,
  backupListSchema,
  hereBodySchema,
  listenQuerySchema,
  backupSchema,
  jobSummarySchema,
  pictureSchema,
  problemSchema,
  proofQuerySchema,
  pullBodySchema,
  pullChangeSchema,
  pullListSchema,
  pullRecordSchema,
  pullSchema,
  recipeListSchema,
  recipeUpdateQuerySchema,
  staleProblemSchema,
  readFileSchema,
  takenSchema,
  troubleSchema,
} from '@jentrix/core/api';
import { keptResultSchema, progressSchema, resultPageSchema, resultQuerySchema, resultSchema } from '@jentrix/core/drill';
import { JOB_FORMATS, type JobFormat, SHEET_FORMATS, sheetsQuerySchema } from '@jentrix/core/formats';
import { jobSchema, recipeNameSchema, recipeSchema, recipeSettingsSchema } from '@jentrix/core/job';
import { preferencesSchema } from '@jentrix/core/preferences';
import { pullArchiveSchema } from '@jentrix/core/pulls';
import * as z from 'zod';
import { removeQuerySchema, uploadQuerySchema } from '../faces/faces.router';
import { intakeQuerySchema, readQuerySchema } from '../intake/intake.router';
import { pictureFitSchema } from '../pictures/pictures.router';

/** The JSON schemas, by their name in the description. */
export const SCHEMAS = {
  Job: jobSchema,
  JobBody: z.strictObject({ job: jobSchema }),
  NewJobBody: z.strictObject({ job: jobSchema, kept: pullArchiveSchema.optional().describe('The number of pulls in its file') }),
  JobRecord: jobRecordSchema,
  Saved: savedSchema,
  JobSummary: jobSummarySchema,
  JobPage: jobPageSchema,
  JobMeasure: jobMeasureSchema,
  Pull: pullSchema,
  PullList: pullListSchema,
  PullRecord: pullRecordSchema,
  PullBody: pullBodySchema.extend({ job: jobSchema }),
  PullChange: pullChangeSchema,
  Face: faceEntrySchema,
  FaceList: faceListSchema,
  Favourite: favouriteSchema,
  CatalogueEntry: catalogueEntrySchema,
  CataloguePage: cataloguePageSchema,
  Trouble: troubleSchema,
  Recipe: recipeSchema,
  RecipeList: recipeListSchema,
  RecipeBody: z.strictObject({ name: recipeNameSchema, settings: recipeSettingsSchema }),
  RecipeChanged: z.object({ recipe: recipeSchema, changedJobs: z.int().describe('The number of jobs changed with it') }),
  Followers: followersSchema,
  Picture: pictureSchema,
  Preferences: preferencesSchema,
  DrillResult: resultSchema,
  KeptResult: keptResultSchema,
  ResultPage: resultPageSchema,
  Progress: progressSchema,
  Taken: takenSchema,
  ReadFile: readFileSchema,
  HereBody: hereBodySchema,
  Backup: backupSchema,
  BackupList: backupListSchema,
  Problem: problemSchema,
  StaleProblem: staleProblemSchema,
  CollectionProblem: collectionProblemSchema,
  Anything: z.record(z.string(), z.unknown()),
} as const satisfies Readonly<Record<string, z.ZodType>>;
export type SchemaName = keyof typeof SCHEMAS;

/** The content of a request or an answer: JSON of a schema, or a file of one of these media types. */
type Content = { json: SchemaName } | { media: readonly string[] };

interface Operation {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Below `/api`, as Express writes it. */
  path: string;
  /** Its name for programs. */
  id: string;
  /** Its purpose, in a sentence without its full point. */
  says: string;
  query?: z.ZodType;
  body?: Content;
  /** True where `If-Match` says what a write is based on. */
  conditional?: boolean;
  /** True where answering draws or measures sheets: such requests are counted together and limited. */
  renders?: boolean;
  answer: { status: 200; content: Content } | { status: 201; content: Content } | { status: 204 };
  /** Problems by their status, besides those that everything can answer with. */
  problems?: Readonly<Record<number, SchemaName>>;
}

const json = (name: SchemaName): Operation['answer'] => ({ status: 200, content: { json: name } });
const made = (name: SchemaName): Operation['answer'] => ({ status: 201, content: { json: name } });
const fileContent = (...media: string[]): Operation['answer'] => ({ status: 200, content: { media } });
const GONE: Operation['answer'] = { status: 204 };
const ZIP = 'application/zip';
export const EVENTS = 'text/event-stream';
const ANY_FILE = 'application/octet-stream';
const ANY_FONT = ['font/ttf', 'font/otf', 'font/woff', 'font/woff2', 'font/collection'];
const ANY_PICTURE = ['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml'];
/** Options as their formats have them; the whole query where other things are asked for too. */
const withBlock = (options: z.ZodType): z.ZodType => z.intersection(options, sheetsQuerySchema.pick({ block: true }));
const withSheets = (options: z.ZodType): z.ZodType => z.intersection(options, sheetsQuerySchema.pick({ sheets: true }));

const jobFormatParameter = (format: JobFormat): Operation => ({
  method: 'get',
  path: `/jobs/:id/${format.id}`,
  id: `exportJobAs${capital(format.id)}`,
  renders: true,
  says: `The job as a file: ${format.name}, ${format.says}`,
  query: format.options,
  answer: fileContent(format.mediaType),
});

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** Everything there is below `/api`. */
export const OPERATIONS: readonly Operation[] = [
  { method: 'get', path: '/jobs', id: 'listJobs', says: 'The jobs on the shelf, or in the trash', query: jobQuerySchema, answer: json('JobPage') },
  {
    method: 'post',
    path: '/jobs',
    id: 'createJob',
    says: 'Adds a job to the shelf, with the pulls of its file',
    body: { json: 'NewJobBody' },
    answer: made('JobRecord'),
  },
  { method: 'get', path: '/jobs/:id', id: 'readJob', says: 'A job with its revision', answer: json('JobRecord') },
  {
    method: 'put',
    path: '/jobs/:id',
    id: 'replaceJob',
    says: 'Saves a job; refuses a save based on an older revision and returns the current one',
    body: { json: 'JobBody' },
    conditional: true,
    answer: json('Saved'),
    problems: { 412: 'StaleProblem', 428: 'Problem' },
  },
  {
    method: 'get',
    path: '/jobs/:id/events',
    id: 'hearOfJob',
    says: 'Events of a job (server-sent): its revision on each save, and “here” with everyone else who has it open',
    query: listenQuerySchema,
    answer: fileContent(EVENTS),
  },
  {
    method: 'post',
    path: '/jobs/:id/here',
    id: 'sayHere',
    says: 'Reports that a window has a job open, at which block, or that it closed',
    body: { json: 'HereBody' },
    answer: GONE,
  },
  { method: 'post', path: '/jobs/:id/duplicate', id: 'duplicateJob', says: 'Duplicates a job', answer: made('JobRecord') },
  { method: 'delete', path: '/jobs/:id', id: 'trashJob', says: 'Moves a job to the trash', answer: GONE },
  { method: 'post', path: '/jobs/:id/restore', id: 'restoreJob', says: 'Restores a job from the trash', answer: json('JobSummary') },
  { method: 'delete', path: '/jobs/:id/forever', id: 'purgeJob', says: 'Deletes a job permanently', answer: GONE },
  {
    method: 'get',
    path: '/jobs/:id/measure',
    id: 'measureJob',
    renders: true,
    says: 'Evenness and findings of a job',
    answer: json('JobMeasure'),
  },
  {
    method: 'get',
    path: '/jobs/:id/thumbnail.png',
    id: 'thumbnailOfJob',
    renders: true,
    says: 'A thumbnail of the first sheet',
    answer: fileContent('image/png'),
  },

  ...JOB_FORMATS.map(jobFormatParameter),
  ...SHEET_FORMATS.map((format): Operation => ({
    method: 'get',
    path: `/jobs/:id/sheets/:sheet/${format.id}`,
    id: `exportSheetAs${capital(format.id)}`,
    renders: true,
    says: `A sheet as ${format.name}, ${format.says}`,
    query: withBlock(format.options),
    answer: fileContent(format.mediaType),
    problems: { 413: 'Problem' },
  })),
  ...SHEET_FORMATS.filter(({ kind }) => kind === 'pages').map((format): Operation => ({
    method: 'get',
    path: `/jobs/:id/sheets${format.extension}`,
    id: `exportSheetsAs${capital(format.id)}`,
    renders: true,
    says: `Several sheets in one ${format.name}`,
    query: withSheets(format.options),
    answer: fileContent(format.mediaType),
    problems: { 413: 'Problem' },
  })),
  {
    method: 'get',
    path: '/jobs/:id/sheets.zip',
    id: 'exportSheetsAsZip',
    renders: true,
    says: 'Sheets in any format with its options, in one ZIP',
    query: sheetsQuerySchema.omit({ side: true }),
    answer: fileContent(ZIP),
    problems: { 413: 'Problem' },
  },
  {
    method: 'get',
    path: '/jobs/:id/sheets/:sheet/preview',
    id: 'previewSheet',
    renders: true,
    says: 'A preview of a sheet in a format with its options',
    query: sheetsQuerySchema.omit({ sheets: true }),
    answer: fileContent('image/png'),
  },
  {
    method: 'get',
    path: '/jobs/:id/sheets/:sheet/proof.png',
    id: 'proofOfSheet',
    renders: true,
    says: 'A proof sheet',
    query: proofQuerySchema,
    answer: fileContent('image/png'),
  },
  {
    method: 'get',
    path: '/jobs/:id/proofs.zip',
    id: 'proofsOfJob',
    renders: true,
    says: 'Proof sheets of all sheets',
    query: proofQuerySchema,
    answer: fileContent(ZIP),
  },

  { method: 'get', path: '/jobs/:id/pulls', id: 'listPulls', says: 'The pulls of a job, latest first', answer: json('PullList') },
  {
    method: 'post',
    path: '/jobs/:id/pulls',
    id: 'keepPull',
    says: 'Keeps a pull of a job',
    body: { json: 'PullBody' },
    answer: made('Pull'),
    problems: { 409: 'Problem' },
  },
  { method: 'get', path: '/jobs/:id/pulls/:pull', id: 'readPull', says: 'A pull, with its job', answer: json('PullRecord') },
  { method: 'patch', path: '/jobs/:id/pulls/:pull', id: 'renamePull', says: 'Names a pull', body: { json: 'PullChange' }, answer: json('Pull') },
  { method: 'delete', path: '/jobs/:id/pulls/:pull', id: 'deletePull', says: 'Deletes a pull', answer: GONE },
  { method: 'get', path: '/jobs/:id/pulls/:pull/measure', id: 'measurePull', renders: true, says: 'A pull, with evenness and findings', answer: json('Pull') },
  {
    method: 'get',
    path: '/jobs/:id/pulls/:pull/thumbnail.png',
    id: 'thumbnailOfPull',
    renders: true,
    says: 'A thumbnail of a pull',
    answer: fileContent('image/png'),
  },
  { method: 'post', path: '/jobs/:id/pulls/:pull/job', id: 'jobOfPull', says: 'Adds a pull to the shelf as a new job', answer: made('JobRecord') },

  {
    method: 'post',
    path: '/intake',
    id: 'takeFile',
    says: 'Imports a file or package as a job',
    query: intakeQuerySchema,
    body: { media: [ANY_FILE] },
    answer: made('Taken'),
    problems: { 413: 'Problem', 415: 'Problem' },
  },

  {
    method: 'post',
    path: '/intake/read',
    id: 'readFile',
    says: 'Reads a file as a job without adding it to the shelf; its picture and new recipes are stored',
    query: readQuerySchema,
    body: { media: [ANY_FILE] },
    answer: json('ReadFile'),
    problems: { 413: 'Problem', 415: 'Problem' },
  },

  { method: 'get', path: '/faces', id: 'listFaces', says: 'The faces in the type case', answer: json('FaceList') },
  {
    method: 'post',
    path: '/faces',
    id: 'uploadFace',
    says: 'Imports a font file, or one font of a collection; returns a face that exists already (200)',
    query: uploadQuerySchema,
    body: { media: ANY_FONT },
    answer: made('Face'),
    problems: { 413: 'Problem', 422: 'CollectionProblem' },
  },
  { method: 'get', path: '/faces/:id/file', id: 'fontOfFace', says: 'The font file of a face', answer: fileContent(...ANY_FONT) },
  {
    method: 'put',
    path: '/faces/:id/favourite',
    id: 'setFavourite',
    says: 'Adds a face to the favourites, or removes it',
    body: { json: 'Favourite' },
    answer: json('Favourite'),
  },
  {
    method: 'delete',
    path: '/faces/:id',
    id: 'removeFace',
    says: 'Removes a face from the type case; jobs that use it get a substitute',
    query: removeQuerySchema,
    answer: GONE,
    problems: { 403: 'Problem', 409: 'Problem' },
  },
  { method: 'get', path: '/catalogue', id: 'searchCatalogue', says: 'The faces of the catalogue', query: catalogueQuerySchema, answer: json('CataloguePage') },
  { method: 'get', path: '/catalogue/:id/file', id: 'fontOfCatalogue', says: 'The font file of a face in the catalogue', answer: fileContent(...ANY_FONT) },
  { method: 'post', path: '/catalogue/:id/add', id: 'addFromCatalogue', says: 'Adds a face of the catalogue to the type case', answer: made('Face') },
  {
    method: 'put',
    path: '/catalogue/trouble',
    id: 'setTrouble',
    says: 'Makes the simulated catalogue slow or unreachable, for tests',
    body: { json: 'Trouble' },
    answer: json('Trouble'),
  },

  { method: 'get', path: '/recipes', id: 'listRecipes', says: 'The recipes, by name', answer: json('RecipeList') },
  {
    method: 'post',
    path: '/recipes',
    id: 'createRecipe',
    says: 'Makes a recipe',
    body: { json: 'RecipeBody' },
    answer: made('Recipe'),
    problems: { 409: 'Problem' },
  },
  { method: 'get', path: '/recipes/tokens.json', id: 'recipesAsTokens', says: 'The recipes as design tokens', answer: json('Anything') },
  { method: 'get', path: '/recipes/recipes.css', id: 'recipesAsCss', says: 'The recipes as CSS', answer: fileContent('text/css') },
  { method: 'get', path: '/recipes/:id/followers', id: 'followersOfRecipe', says: 'The jobs that use a recipe', answer: json('Followers') },
  {
    method: 'put',
    path: '/recipes/:id',
    id: 'changeRecipe',
    says: 'Updates a recipe, and the blocks that use it',
    query: recipeUpdateQuerySchema,
    body: { json: 'RecipeBody' },
    answer: json('RecipeChanged'),
    problems: { 409: 'Problem' },
  },
  { method: 'delete', path: '/recipes/:id', id: 'removeRecipe', says: 'Deletes a recipe; blocks keep their settings', answer: GONE },

  {
    method: 'post',
    path: '/pictures',
    id: 'keepPicture',
    says: 'Stores a picture; sanitises an SVG',
    body: { media: ANY_PICTURE },
    answer: made('Picture'),
    problems: { 413: 'Problem' },
  },
  { method: 'get', path: '/pictures/:id', id: 'readPicture', says: 'A picture', query: pictureFitSchema, answer: fileContent(...ANY_PICTURE) },
  { method: 'get', path: '/backups', id: 'listBackups', says: 'The backups, newest first', answer: json('BackupList') },
  { method: 'post', path: '/backups', id: 'makeBackup', says: 'Backs up all data', answer: made('Backup') },
  {
    method: 'get',
    path: '/backups/:name/file',
    id: 'fileOfBackup',
    says: 'A backup as a file: an SQLite database',
    answer: fileContent('application/vnd.sqlite3'),
  },
  { method: 'post', path: '/backups/:name/restore', id: 'restoreBackup', says: 'Restores a backup; the current data is backed up first', answer: GONE },
  {
    method: 'post',
    path: '/backups/restore',
    id: 'restoreFile',
    says: 'Restores an uploaded backup; the current data is backed up first',
    body: { media: ['application/octet-stream'] },
    answer: GONE,
    problems: { 413: 'Problem' },
  },
  {
    method: 'post',
    path: '/backups/write-again',
    id: 'writeDataAgain',
    says: 'Saves the database again if its file was moved or deleted',
    answer: GONE,
  },
  { method: 'get', path: '/preferences', id: 'readPreferences', says: 'The preferences', answer: json('Preferences') },
  { method: 'put', path: '/preferences', id: 'writePreferences', says: 'Saves the preferences', body: { json: 'Preferences' }, answer: json('Preferences') },
  { method: 'get', path: '/drill/results', id: 'listResults', says: 'Drill results, newest first', query: resultQuerySchema, answer: json('ResultPage') },
  {
    method: 'post',
    path: '/drill/results',
    id: 'keepResult',
    says: 'Stores the result of an exercise and returns its score',
    body: { json: 'DrillResult' },
    answer: made('KeptResult'),
  },
  { method: 'delete', path: '/drill/results', id: 'forgetResults', says: 'Clears the history', answer: GONE },
  { method: 'get', path: '/drill/progress', id: 'readProgress', says: 'Progress, and what to practise next', answer: json('Progress') },
  { method: 'get', path: '/schema/job.json', id: 'jobSchema', says: 'The format of job files as JSON Schema', answer: json('Anything') },
  { method: 'get', path: '/openapi.json', id: 'describe', says: 'This description', answer: json('Anything') },
];
