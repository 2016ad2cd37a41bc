import { DEFAULT_PREFERENCES, type Preferences, STORED_PREFERENCES, rescuePreferences } from '@jentrix/core/preferences';
import { fromStored, toStored } from '@jentrix/core/stored';
import type { DataSource, Repository } from 'typeorm';
import { PreferencesEntity } from './preferences.entity';

const ROW = 1;

/** The preferences of whoever works here. */
export class PreferencesService {
  private readonly rows: Repository<PreferencesEntity>;

  constructor(dataSource: DataSource) {
    this.rows = dataSource.getRepository(PreferencesEntity);
  }

  /** The saved preferences, as far as they can be read; the defaults where there are none. */
  async read(): Promise<Preferences> {
    const row = await this.rows.findOneBy({ id: ROW });
    if (!row) return DEFAULT_PREFERENCES;
    const stored: unknown = JSON.parse(row.document);
    try {
      return fromStored(STORED_PREFERENCES, stored);
    } catch {
      return rescuePreferences(stored);
    }
  }

  async write(preferences: Preferences): Promise<void> {
    await this.rows.upsert({ id: ROW, document: JSON.stringify(toStored(STORED_PREFERENCES, preferences)) }, ['id']);
  }
}
