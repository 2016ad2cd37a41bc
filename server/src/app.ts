import { jobJsonSchema } from '@jentrix/core/job';
import compression from 'compression';
import express, { type Express } from 'express';
import { constants } from 'node:zlib';
import type { DataSource } from 'typeorm';
import { catalogueRouter } from './catalogue/catalogue.router';
import { exportsRouter } from './exports/exports.router';
import { ExportsService } from './exports/exports.service';
import type { FaceLibrary } from './faces/face-library';
import { facesRouter } from './faces/faces.router';
import { pageRouter } from './http/page';
import { problemHandler, unknownRoute } from './http/problem';
import { ownPagesOnly, securityHeaders } from './http/security';
import { jobsRouter } from './jobs/jobs.router';
import type { JobsService } from './jobs/jobs.service';
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
  jobs: JobsService;
  pulls: PullsService;
  preferences: PreferencesService;
  library: FaceLibrary;
  pictures: PicturesService;
  workshop: Workshop;
  /** Folder of the built page. */
  webRoot: string;
  /** Host names the server answers to, without port. */
  hosts: ReadonlySet<string>;
}

/** Largest JSON body but for jobs, which have a limit of their own, in bytes. */
const BODY_LIMIT = 256 * 1024;

/** A little more work than is usual (4) makes the page's scripts 7 % smaller, at some 10 ms for the largest. */
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: 6 } };

/** The whole server, without listening. */
export function createApp({ dataSource, jobs, pulls, preferences, library, pictures, workshop, webRoot, hosts }: AppOptions): Express {
  const exports = new ExportsService(workshop, jobs, library, pictures, preferences);
  const api = express
    .Router()
    // Fonts, pictures and jobs come as they are; everything else is JSON.
    .use('/pictures', picturesRouter(pictures))
    .use('/faces', facesRouter(library, jobs))
    .use('/jobs', exportsRouter(jobs, exports, pulls))
    .use('/jobs', pullsRouter(pulls, jobs, exports))
    .use('/jobs', measuresRouter(new MeasuresService(dataSource, jobs, exports, workshop, preferences)))
    .use('/jobs', jobsRouter(jobs))
    .use(express.json({ limit: BODY_LIMIT, strict: true }))
    .use('/recipes', recipesRouter(new RecipesService(dataSource, jobs), library))
    .use('/catalogue', catalogueRouter(library.catalogue, library))
    .use('/preferences', preferencesRouter(preferences))
    .get('/schema/job.json', (_request, response) => {
      response.json(jobJsonSchema());
    })
    .use(unknownRoute);

  return express()
    .disable('x-powered-by')
    .use(securityHeaders())
    .use(ownPagesOnly(hosts))
    .use(compression({ brotli: BROTLI }))
    .use('/api', api)
    .use(pageRouter(webRoot))
    .use(problemHandler);
}
