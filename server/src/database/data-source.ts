import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { JobEntity } from '../jobs/job.entity';
import { PreferencesEntity } from '../preferences/preferences.entity';
import { Initial1764000000000 } from './migrations/1764000000000-initial';

/**
 * Opens the database, brings its tables up to date and switches it to write-ahead logging.
 * @param file path of the SQLite file, or `:memory:`.
 */
export async function openDatabase(file: string): Promise<DataSource> {
  const dataSource = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: [JobEntity, PreferencesEntity],
    migrations: [Initial1764000000000],
    migrationsRun: true,
    synchronize: false,
    prepareDatabase: (database: { pragma(text: string): void }) => {
      database.pragma('journal_mode = WAL');
      database.pragma('synchronous = NORMAL');
      database.pragma('busy_timeout = 5000');
    },
  });
  return dataSource.initialize();
}
