import { hereBodySchema, jobQuerySchema, listenQuerySchema } from '@jentrix/core/api';
import express, { Router } from 'express';
import { ifMatchRevision, jsonBytes, jsonBytesOf, parseBody, parseQuery } from '../http/parse';
import { sendProblem } from '../http/problem';
import { type JobsService, StaleError } from './jobs.service';
import { recordOf, sendRecord, sendSaved } from './send-record';
import type { Presence } from './presence';
import { sendEvents } from './send-events';
import { Streams } from './streams';
import { MAX_FILE_BYTES } from '../http/sizes';

/** A body that says where a window is, in bytes. */
const HERE_LIMIT = 4096;

export function jobsRouter(jobs: JobsService, presence: Presence): Router {
  const streams = new Streams();
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
      const { window, browser } = parseQuery(listenQuerySchema, request);
      const { revision } = await jobs.stored(id);
      const over = streams.take(request.socket.remoteAddress ?? '');
      sendEvents(response, (tell) => {
        tell({ revision });
        const deaf = [jobs.listen(id, (next) => tell({ revision: next }))];
        if (window !== undefined) deaf.push(presence.listen(id, { window, browser: browser ?? window }, (others) => tell({ others }, 'here')));
        return () => [...deaf, over].forEach((end) => end());
      });
    })
    .post('/:id/here', express.json({ limit: HERE_LIMIT }), async (request, response) => {
      const { id } = request.params;
      await jobs.mustBeThere(id);
      presence.say(id, parseBody(hereBodySchema, request));
      response.status(204).end();
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
