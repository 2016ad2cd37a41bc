/** Files of other kinds, put on the shelf as jobs, or read as one. */
import { MAX_PACKAGE } from '@jentrix/core/package';
import express, { type Request, type RequestHandler, Router } from 'express';
import * as z from 'zod';
import { parseQuery } from '../http/parse';
import { type IntakeService, mayBePackage } from './intake.service';

/** Largest file that is imported, in bytes. */
const MAX_BYTES = 16 * 1024 * 1024;
const name = z.string().min(1).max(300).describe('What the file is called: its ending says what it is');
export const intakeQuerySchema = z.object({ name });
const side = z.coerce.number().min(1).max(20_000).optional().describe('Of the sheet that blocks without a place of their own stand on, in points');
export const readQuerySchema = z.object({ name, widthPt: side, heightPt: side });

export function intakeRouter(intake: IntakeService): Router {
  const raw = (limit: number): RequestHandler => express.raw({ type: () => true, limit });
  const [taken, packed] = [raw(MAX_BYTES), raw(MAX_PACKAGE)];
  const body: RequestHandler = (request, response, next) => {
    if (mayBePackage(nameOf(request))) packed(request, response, next);
    else taken(request, response, next);
  };
  return Router()
    .post('/', body, async (request, response) => {
      const { job, notes } = await intake.shelve(nameOf(request), bytesOf(request));
      response.status(201).location(`/api/jobs/${job.id}`).json({ id: job.id, notes });
    })
    .post('/read', taken, async (request, response) => {
      const { name: called, widthPt, heightPt } = parseQuery(readQuerySchema, request);
      const sheet = widthPt === undefined || heightPt === undefined ? undefined : { widthPt, heightPt };
      const { job, notes } = await intake.read(called, bytesOf(request), sheet);
      response.type('application/json').send(`{"job":${job},"notes":${JSON.stringify(notes)}}`);
    });
}

const nameOf = (request: Request): string => parseQuery(intakeQuerySchema, request).name;

function bytesOf(request: Request): Buffer {
  const bytes: unknown = request.body;
  return Buffer.isBuffer(bytes) ? bytes : Buffer.alloc(0);
}
