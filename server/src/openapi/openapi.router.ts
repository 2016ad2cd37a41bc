import { jobJsonSchema } from '@jentrix/core/job';
import { Router } from 'express';
import { openApi } from './openapi';

/** The API's description. */
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
