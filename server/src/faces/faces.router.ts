import { favouriteSchema } from '@jentrix/core/api';
import { MAX_FONT_BYTES } from '@jentrix/core/face';
import express, { Router } from 'express';
import * as z from 'zod';
import { parseBody, parseQuery } from '../http/parse';
import { ProblemError, notFound } from '../http/problem';
import type { FaceLibrary, FaceUsers } from './face-library';
import { sendFont } from './send-font';

export const uploadQuerySchema = z.object({ font: z.coerce.number().int().min(0).max(1000).optional() });
export const removeQuerySchema = z.object({ standIn: z.string().max(80).optional() });

export function facesRouter(library: FaceLibrary, users: FaceUsers): Router {
  return Router()
    .get('/', async (_request, response) => {
      response.json(await library.list());
    })
    .post('/', express.raw({ type: () => true, limit: MAX_FONT_BYTES }), async (request, response) => {
      const { font } = parseQuery(uploadQuerySchema, request);
      const body: unknown = request.body;
      if (!Buffer.isBuffer(body) || body.length === 0) throw new ProblemError(422, 'bad-font', 'The font can’t be used', 'The file is empty.');
      const { entry, isNew } = await library.upload(body, font);
      response.status(isNew ? 201 : 200).json(entry);
    })
    .get('/:id/file', async (request, response, next) => {
      const file = await library.file(request.params.id);
      if (file === undefined) throw notFound('face');
      sendFont(response, file, next);
    })
    .put('/:id/favourite', express.json(), async (request, response) => {
      const { favourite } = parseBody(favouriteSchema, request);
      await library.setFavourite(request.params.id, favourite);
      response.json({ favourite });
    })
    .delete('/:id', async (request, response) => {
      const { standIn } = parseQuery(removeQuerySchema, request);
      await library.remove(request.params.id, standIn, users);
      response.status(204).end();
    });
}
