import { type CataloguePage, catalogueQuerySchema, troubleSchema } from '@jentrix/core/api';
import { Router } from 'express';
import type { FaceLibrary } from '../face-library';
import { sendFont } from '../send-font';
import { parseBody, parseQuery } from '../../http/parse';
import { notFound } from '../../http/problem';
import type { CatalogueService } from './catalogue.service';

export function catalogueRouter(catalogue: CatalogueService, library: FaceLibrary): Router {
  return Router()
    .put('/trouble', (request, response) => {
      const trouble = parseBody(troubleSchema, request);
      catalogue.setTrouble(trouble);
      response.json(trouble);
    })
    .get('/', async (request, response) => {
      const query = parseQuery(catalogueQuerySchema, request);
      await catalogue.reach();
      const atHand = new Set((await library.list()).items.map(({ id }) => id));
      const page: CataloguePage = { ...catalogue.search(query, atHand), page: query.page, pageSize: query.pageSize };
      response.json(page);
    })
    .get('/:id/file', async (request, response, next) => {
      await catalogue.reach();
      const file = catalogue.file(request.params.id);
      if (!file) throw notFound('face');
      sendFont(response, file, next);
    })
    .post('/:id/add', async (request, response) => {
      await catalogue.reach();
      response.status(201).json(await library.addFromCatalogue(request.params.id));
    });
}
