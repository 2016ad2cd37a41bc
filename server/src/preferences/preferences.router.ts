import { preferencesSchema } from '@jentrix/core/preferences';
import { Router } from 'express';
import { parseBody } from '../http/parse';
import type { PreferencesService } from './preferences.service';

export function preferencesRouter(preferences: PreferencesService): Router {
  return Router()
    .get('/', async (_request, response) => {
      response.json(await preferences.read());
    })
    .put('/', async (request, response) => {
      const written = parseBody(preferencesSchema, request);
      await preferences.write(written);
      response.json(written);
    });
}
