import { type JobRecord, jobBodySchema, jobQuerySchema } from '@jentrix/core/api';
import { readJob } from '@jentrix/core/formats';
import { type Response, Router } from 'express';
import { ifMatchRevision, parseBody, parseQuery } from '../http/parse';
import type { JobsService } from './jobs.service';

const sendRecord = (response: Response, record: JobRecord): void => {
  response.set('etag', `"${record.revision}"`).json(record);
};

export function jobsRouter(jobs: JobsService): Router {
  return Router()
    .get('/', async (request, response) => {
      response.json(await jobs.list(parseQuery(jobQuerySchema, request)));
    })
    .post('/', async (request, response) => {
      const record = await jobs.create(readJob(parseBody(jobBodySchema, request).job));
      response.status(201).location(`/api/jobs/${record.id}`);
      sendRecord(response, record);
    })
    .get('/:id', async (request, response) => {
      sendRecord(response, await jobs.read(request.params.id));
    })
    .put('/:id', async (request, response) => {
      const basedOn = ifMatchRevision(request);
      sendRecord(response, await jobs.replace(request.params.id, basedOn, readJob(parseBody(jobBodySchema, request).job)));
    })
    .post('/:id/duplicate', async (request, response) => {
      const record = await jobs.duplicate(request.params.id);
      response.status(201).location(`/api/jobs/${record.id}`);
      sendRecord(response, record);
    })
    .delete('/:id', async (request, response) => {
      await jobs.trash(request.params.id);
      response.status(204).end();
    })
    .post('/:id/restore', async (request, response) => {
      response.json(await jobs.restore(request.params.id));
    })
    .delete('/:id/forever', async (request, response) => {
      await jobs.purge(request.params.id);
      response.status(204).end();
    });
}
