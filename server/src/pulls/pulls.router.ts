import { pullChangeSchema } from '@jentrix/core/api';
import express, { Router } from 'express';
import { jsonBytes, parseBody } from '../http/parse';
import type { JobsService } from '../jobs/jobs.service';
import { sendRecord } from '../jobs/send-record';
import type { PullsService } from './pulls.service';

/** Mounted beside the jobs' own routes: their kept states. */
export function pullsRouter(pulls: PullsService, jobs: JobsService): Router {
  return Router()
    .get('/:id/pulls', async (request, response) => {
      response.json({ items: await pulls.list(request.params.id) });
    })
    .post('/:id/pulls', jsonBytes, async (request, response) => {
      const id = String(request.params['id']);
      const pull = await pulls.keep(id, request.body as Buffer);
      response.status(201).location(`/api/jobs/${id}/pulls/${pull.id}`).json(pull);
    })
    .get('/:id/pulls/:pull', async (request, response) => {
      const { pull, document } = await pulls.read(request.params.id, request.params.pull);
      response.type('application/json').send(`{"pull":${JSON.stringify(pull)},"job":${document}}`);
    })
    .patch('/:id/pulls/:pull', express.json({ limit: 4096 }), async (request, response) => {
      const { name } = parseBody(pullChangeSchema, request);
      response.json(await pulls.rename(request.params.id, request.params.pull, name));
    })
    .delete('/:id/pulls/:pull', (request, response) => {
      pulls.delete(request.params.id, request.params.pull);
      response.status(204).end();
    })
    .post('/:id/pulls/:pull/job', async (request, response) => {
      const { document } = await pulls.read(request.params.id, request.params.pull);
      const stored = await jobs.createCopy(document);
      response.status(201).location(`/api/jobs/${stored.id}`);
      sendRecord(response, stored);
    });
}
