import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import { constants } from 'node:zlib';
import type { DataSource } from 'typeorm';
import { backupsRouter } from './backups/backups.router';
import type { BackupsService } from './backups/backups.service';
import { catalogueRouter } from './faces/catalogue/catalogue.router';
import { drillRouter } from './drill/drill.router';
import { DrillService } from './drill/drill.service';
import { exportsRouter } from './exports/exports.router';
import { intakeRouter } from './intake/intake.router';
import { IntakeService } from './intake/intake.service';
import { ExportsService, type ThumbnailKeeping } from './exports/exports.service';
import type { FaceLibrary } from './faces/face-library';
import type { DatabaseFile } from './database/database-file';
import { facesRouter } from './faces/faces.router';
import { limited } from './http/limit';
import { pageRouter } from './http/page';
import { problemHandler, unknownRoute } from './http/problem';
import { ownPagesOnly, securityHeaders } from './http/security';
import { jobsRouter } from './jobs/jobs.router';
import type { JobsService } from './jobs/jobs.service';
import type { Presence } from './jobs/presence';
import { openApiRouter } from './openapi/openapi.router';
import { OPERATIONS } from './openapi/operations';
import { packagesRouter } from './packages/packages.router';
import { PackagesService } from './packages/packages.service';
import { picturesRouter } from './pictures/pictures.router';
import type { PicturesService } from './pictures/pictures.service';
import type { Workshop } from './pool/workshop';
import { recipesRouter } from './recipes/recipes.router';
import { RecipesService } from './recipes/recipes.service';
import type { PreferencesService } from './preferences/preferences.service';
import { measuresRouter } from './measures/measures.router';
import { MeasuresService } from './measures/measures.service';
import { pullsRouter } from './pulls/pulls.router';
import type { PullsService } from './pulls/pulls.service';
import { preferencesRouter } from './preferences/preferences.router';

export interface AppOptions {
  dataSource: DataSource;
  file: DatabaseFile;
  backups: BackupsService;
  jobs: JobsService;
  presence: Presence;
  pulls: PullsService;
  preferences: PreferencesService;
  library: FaceLibrary;
  pictures: PicturesService;
  workshop: Workshop;
  thumbnails: ThumbnailKeeping;
  /** Folder of the built page. */
  webRoot: string;
  /** Host names the server answers to, without port. */
  hosts: ReadonlySet<string>;
}

/** Largest JSON body but for jobs, which have a limit of their own, in bytes. */
const BODY_LIMIT = 256 * 1024;

/** A little more work than is usual (4) makes the page's scripts 7 % smaller, at some 10 ms for the largest. */
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: 6 } };

/** Rendering takes real work: more than this many pictures a minute are refused, unless JENTRIX_RENDERS_A_MINUTE says otherwise. */
const RENDERS_A_MINUTE = 600;

/** The routes below `/api`, in their order. */
export function apiRoutes({
  dataSource,
  file,
  backups,
  jobs,
  presence,
  pulls,
  preferences,
  library,
  pictures,
  workshop,
  thumbnails,
}: AppOptions): readonly (readonly [path: string, handler: RequestHandler])[] {
  const exports = new ExportsService(workshop, jobs, library, pictures, preferences, thumbnails);
  const recipes = new RecipesService(dataSource, jobs);
  const packages = new PackagesService({ workshop, jobs, pulls, pictures, library, recipes }, exports);
  return [
    ['/backups', backupsRouter(backups, workshop.spool)],
    ['/', savesOnlyThere(file)],
    // Fonts, pictures and jobs come as they are; everything else is JSON.
    ['/pictures', picturesRouter(pictures)],
    ['/faces', facesRouter(library, { jobs, recipes })],
    ['/intake', intakeRouter(new IntakeService({ workshop, jobs, pictures, library, recipes, packages }))],
    ['/jobs', exportsRouter(jobs, exports, pulls)],
    ['/jobs', packagesRouter(packages, jobs)],
    ['/jobs', pullsRouter(pulls, jobs)],
    ['/jobs', measuresRouter(new MeasuresService({ dataSource, jobs, pulls, exports, workshop, preferences }))],
    ['/jobs', jobsRouter(jobs, presence)],
    ['/', express.json({ limit: BODY_LIMIT, strict: true })],
    ['/recipes', recipesRouter(recipes, library)],
    ['/catalogue', catalogueRouter(library.catalogue, library)],
    ['/preferences', preferencesRouter(preferences)],
    ['/drill', drillRouter(new DrillService(dataSource))],
    ['/', openApiRouter()],
  ];
}

/** Refuses writes while nothing can be kept: an answer would be a promise. What is read is still there. */
function savesOnlyThere(file: DatabaseFile): RequestHandler {
  return (request, _response, next) => {
    if (request.method !== 'GET' && request.method !== 'HEAD') file.mustBeThere();
    next();
  };
}

/** The whole server, without listening. */
export function createApp(options: AppOptions): Express {
  const api = express.Router();
  api.use(
    limited(
      OPERATIONS.filter(({ renders }) => renders),
      Number(process.env['JENTRIX_RENDERS_A_MINUTE'] ?? RENDERS_A_MINUTE),
    ),
  );
  for (const [path, handler] of apiRoutes(options)) api.use(path, handler);
  api.use(unknownRoute);
  return (
    express()
      .disable('x-powered-by')
      .use(securityHeaders())
      // What is below `/api` is told by the router itself, however it is written.
      .use('/api', ownPagesOnly(options.hosts, { open: false }))
      .use(ownPagesOnly(options.hosts, { open: true }))
      .use(compression({ brotli: BROTLI }))
      .use('/api', api)
      .use(pageRouter(options.webRoot))
      .use(problemHandler)
  );
}
