import { resultQuerySchema, resultSchema } from '@jentrix/core/drill';
import { Router } from 'express';
import { parseBody, parseQuery } from '../http/parse';
import type { DrillService } from './drill.service';

export function drillRouter(drill: DrillService): Router {
  return Router()
    .get('/results', async (request, response) => {
      const { page, pageSize } = parseQuery(resultQuerySchema, request);
      response.json(await drill.list(page, pageSize));
    })
    .post('/results', async (request, response) => {
      response.status(201).json(await drill.keep(parseBody(resultSchema, request)));
    })
    .delete('/results', async (_request, response) => {
      await drill.forget();
      response.status(204).end();
    })
    .get('/progress', async (_request, response) => {
      response.json(await drill.progress());
    });
}
