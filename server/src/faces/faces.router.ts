import { Router } from 'express';
import { notFound } from '../http/problem';
import type { FaceLibrary } from './face-library';

export function facesRouter(library: FaceLibrary): Router {
  return Router()
    .get('/', async (_request, response) => {
      response.json(await library.list());
    })
    .get('/:id/file', (request, response, next) => {
      const file = library.file(request.params.id);
      if (!file) throw notFound('face');
      response.sendFile(file, { maxAge: '1h', headers: { 'content-type': 'font/ttf' } }, (error) => {
        if (error) next(error);
      });
    });
}
