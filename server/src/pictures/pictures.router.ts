import express, { Router } from 'express';
import { MAX_PICTURE_BYTES, type PicturesService } from './pictures.service';

export function picturesRouter(pictures: PicturesService): Router {
  return Router()
    .post('/', express.raw({ type: () => true, limit: MAX_PICTURE_BYTES }), async (request, response) => {
      const body: unknown = request.body;
      response.status(201).json(await pictures.keep(Buffer.isBuffer(body) ? body : Buffer.alloc(0)));
    })
    .get('/:id', async (request, response) => {
      const { type, bytes } = await pictures.read(request.params.id);
      // A picture opened by itself runs nothing.
      response
        .set({ 'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox", 'cache-control': 'private, max-age=31536000, immutable' })
        .type(type)
        .send(bytes);
    });
}
