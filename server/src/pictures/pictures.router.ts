import { fitted } from '@jentrix/core/formats';
import express, { Router } from 'express';
import * as z from 'zod';
import { parseQuery } from '../http/parse';
import { MAX_PICTURE_BYTES, type PicturesService } from './pictures.service';

/** How an SVG is to fill the box it is laid into; others are told by what shows them. */
export const pictureFitSchema = z.object({ fit: z.enum(['cover', 'contain']).optional() });

export function picturesRouter(pictures: PicturesService): Router {
  return Router()
    .post('/', express.raw({ type: () => true, limit: MAX_PICTURE_BYTES }), async (request, response) => {
      const body: unknown = request.body;
      response.status(201).json(await pictures.keep(Buffer.isBuffer(body) ? body : Buffer.alloc(0)));
    })
    .get('/:id', async (request, response) => {
      const { fit } = parseQuery(pictureFitSchema, request);
      const { type, bytes: kept } = await pictures.read(request.params.id);
      const bytes = fit && type === 'image/svg+xml' ? fitted(kept.toString(), fit) : kept;
      // A picture opened by itself runs nothing.
      response
        .set({ 'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox", 'cache-control': 'private, max-age=31536000, immutable' })
        .type(type)
        .send(bytes);
    });
}
