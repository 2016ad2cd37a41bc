import { Router } from 'express';
import type { MeasuresService } from './measures.service';

/** Mounted beside the jobs' own routes: measures of a job and of its pulls. */
export function measuresRouter(measures: MeasuresService): Router {
  return Router()
    .get('/:id/measure', async (request, response) => {
      response.json(await measures.measure(request.params.id));
    })
    .get('/:id/pulls/:pull/measure', async (request, response) => {
      response.json(await measures.measurePull(request.params.id, request.params.pull));
    });
}
