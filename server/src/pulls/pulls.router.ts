import { proofQuerySchema, pullChangeSchema } from '@jentrix/core/api';
import express, { type Request, Router } from 'express';
import type { ExportsService, EarlierState } from '../exports/exports.service';
import { handFile, sendThumbnail } from '../http/send-file';
import { sendZip } from '../exports/send-zip';
import { jsonBytes, parseBody, parseQuery } from '../http/parse';
import type { JobsService } from '../jobs/jobs.service';
import { sendRecord } from '../jobs/send-record';
import type { PullsService } from './pulls.service';

/** Mounted beside the jobs' own routes: their kept states. */
export function pullsRouter(pulls: PullsService, jobs: JobsService, exports: ExportsService): Router {
  /** The pull that a proof is asked to show beside the job. */
  const beforeOf = async (jobId: string, request: Request): Promise<EarlierState | undefined> => {
    const { pull } = parseQuery(proofQuerySchema, request);
    if (pull === undefined) return undefined;
    const { stored, uses } = await pulls.kept(jobId, pull);
    return { document: stored.document, uses };
  };
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
    .get('/:id/pulls/:pull/measure', async (request, response) => {
      const { id, pull } = request.params;
      const { stored, uses } = await pulls.kept(id, pull);
      response.json(await pulls.measured(id, pull, await exports.materials(stored.document, uses)));
    })
    .get('/:id/pulls/:pull/thumbnail.png', async (request, response) => {
      const { stored, uses } = await pulls.kept(request.params.id, request.params.pull);
      await sendThumbnail(request, response, await exports.thumbnail(stored, uses));
    })
    .get('/:id/sheets/:sheet/proof.png', async (request, response) => {
      const { id, sheet } = request.params;
      const file = await exports.proof(await jobs.stored(id), sheet, await beforeOf(id, request));
      response.attachment(`${file.name}.png`);
      await handFile(response, file, 'image/png');
    })
    .get('/:id/proofs.zip', async (request, response) => {
      const { id } = request.params;
      const { name, makers } = await exports.proofs(await jobs.stored(id), await beforeOf(id, request));
      await sendZip(response, `${name} proofs`, makers);
    })
    .post('/:id/pulls/:pull/job', async (request, response) => {
      const { document } = await pulls.read(request.params.id, request.params.pull);
      const stored = await jobs.createCopy(document);
      response.status(201).location(`/api/jobs/${stored.id}`);
      sendRecord(response, stored);
    });
}
