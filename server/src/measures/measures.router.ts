import { Router } from 'express';
import type { MeasuresService } from './measures.service';

/** Mounted beside the jobs' own routes: what a job measures. */
export function measuresRouter(measures: MeasuresService): Router {
  return Router().get('/:id/measure', async (request, response) => {
    response.json(await measures.measure(request.params.id));
  });
}
