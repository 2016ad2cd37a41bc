import { jobJsonSchema } from '@jentrix/core/job';
import { Router } from 'express';
import { openApi } from './openapi';

/** What there is to ask for, and what files look like. */
export function openApiRouter(): Router {
  let description: ReturnType<typeof openApi> | undefined;
  return Router()
    .get('/openapi.json', (_request, response) => {
      response.json((description ??= openApi()));
    })
    .get('/schema/job.json', (_request, response) => {
      response.json(jobJsonSchema());
    });
}
