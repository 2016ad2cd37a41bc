import { DEFAULT_PREFERENCES, type Preferences, preferencesSchema } from '@jentrix/core/preferences';
import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { parseBody } from '../http/parse';
import { PreferencesEntity } from './preferences.entity';

const ROW = 1;

export function preferencesRouter(dataSource: DataSource): Router {
  const rows = dataSource.getRepository(PreferencesEntity);

  const read = async (): Promise<Preferences> => {
    const row = await rows.findOneBy({ id: ROW });
    if (!row) return DEFAULT_PREFERENCES;
    const stored = preferencesSchema.safeParse(JSON.parse(row.document));
    return stored.success ? stored.data : DEFAULT_PREFERENCES;
  };

  return Router()
    .get('/', async (_request, response) => {
      response.json(await read());
    })
    .put('/', async (request, response) => {
      const preferences = parseBody(preferencesSchema, request);
      await rows.upsert({ id: ROW, document: JSON.stringify(preferences) }, ['id']);
      response.json(preferences);
    });
}
