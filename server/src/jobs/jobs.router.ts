import { jobQuerySchema } from '@jentrix/core/api';
import { Router } from 'express';
import { ifMatchRevision, jsonBytes, jsonBytesOf, parseQuery } from '../http/parse';
import { sendProblem } from '../http/problem';
import { type JobsService, StaleError } from './jobs.service';
import { recordOf, sendRecord, sendSaved } from './send-record';
import { sendRevisions } from './send-revisions';
import { MAX_FILE_BYTES } from './sizes';

export function jobsRouter(jobs: JobsService): Router {
  return Router()
    .get('/', async (request, response) => {
      response.json(await jobs.list(parseQuery(jobQuerySchema, request)));
    })
    .post('/', jsonBytesOf(MAX_FILE_BYTES), async (request, response) => {
      const stored = await jobs.createFrom(request.body as Buffer);
      response.status(201).location(`/api/jobs/${stored.id}`);
      sendRecord(response, stored);
    })
    .get('/:id/events', async (request, response) => {
      const { id } = request.params;
      const { revision } = await jobs.stored(id);
      sendRevisions(response, revision, (hear) => jobs.listen(id, hear));
    })
    .get('/:id', async (request, response) => {
      sendRecord(response, await jobs.read(request.params.id));
    })
    .put('/:id', jsonBytes, async (request, response) => {
      const basedOn = ifMatchRevision(request);
      try {
        sendSaved(response, await jobs.replace(String(request.params['id']), basedOn, request.body as Buffer));
      } catch (error) {
        if (!(error instanceof StaleError)) throw error;
        sendProblem(response, error, { current: recordOf(error.current) });
      }
    })
    .post('/:id/duplicate', async (request, response) => {
      const stored = await jobs.duplicate(request.params.id);
      response.status(201).location(`/api/jobs/${stored.id}`);
      sendRecord(response, stored);
    })
    .delete('/:id', async (request, response) => {
      await jobs.trash(request.params.id);
      response.status(204).end();
    })
    .post('/:id/restore', async (request, response) => {
      response.json(await jobs.restore(request.params.id));
    })
    .delete('/:id/forever', (request, response) => {
      jobs.purge(request.params.id);
      response.status(204).end();
    });
}
