import { DEFAULT_PREFERENCES, type Preferences, STORED_PREFERENCES, preferencesSchema, rescuePreferences } from '@jentrix/core/preferences';
import { fromStored, toStored } from '@jentrix/core/stored';
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
    const stored: unknown = JSON.parse(row.document);
    try {
      return fromStored(STORED_PREFERENCES, stored);
    } catch {
      return rescuePreferences(stored);
    }
  };

  return Router()
    .get('/', async (_request, response) => {
      response.json(await read());
    })
    .put('/', async (request, response) => {
      const preferences = parseBody(preferencesSchema, request);
      await rows.upsert({ id: ROW, document: JSON.stringify(toStored(STORED_PREFERENCES, preferences)) }, ['id']);
      response.json(preferences);
    });
}
