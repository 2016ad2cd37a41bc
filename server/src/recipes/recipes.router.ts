import { recipeBodySchema, recipeUpdateQuerySchema } from '@jentrix/core/api';
import { type OutsideFace, writeCss, writeTokens } from '@jentrix/core/formats';
import { Router } from 'express';
import type { FaceLibrary } from '../faces/face-library';
import { parseBody, parseQuery } from '../http/parse';
import type { RecipesService } from './recipes.service';

export function recipesRouter(recipes: RecipesService, library: FaceLibrary): Router {
  /** Names faces as the world outside does. */
  const outside = async (): Promise<(faceId: string) => OutsideFace> => {
    const faces = new Map((await library.list()).items.map((face) => [face.id, face]));
    return (faceId) => {
      const face = faces.get(faceId);
      return { family: face?.family ?? faceId, weight: face?.weight ?? 400, italic: face?.italic ?? false };
    };
  };
  return Router()
    .get('/', async (_request, response) => {
      response.json({ items: await recipes.list() });
    })
    .post('/', async (request, response) => {
      const { name, settings } = parseBody(recipeBodySchema, request);
      response.status(201).json(await recipes.create(name, settings));
    })
    .get('/tokens.json', async (_request, response) => {
      response
        .attachment('recipes.tokens.json')
        .type('application/json')
        .send(writeTokens(await recipes.list(), await outside()));
    })
    .get('/recipes.css', async (_request, response) => {
      response
        .attachment('recipes.css')
        .type('text/css')
        .send(writeCss(await recipes.list(), await outside()));
    })
    .get('/:id/followers', async (request, response) => {
      response.json(await recipes.followers(request.params.id));
    })
    .put('/:id', async (request, response) => {
      const { name, settings } = parseBody(recipeBodySchema, request);
      const { exceptJob } = parseQuery(recipeUpdateQuerySchema, request);
      response.json(await recipes.change(request.params.id, name, settings, exceptJob));
    })
    .delete('/:id', async (request, response) => {
      await recipes.remove(request.params.id);
      response.status(204).end();
    });
}
