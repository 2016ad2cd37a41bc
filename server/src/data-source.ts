import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { DrillResultEntity } from './drill/drill-result.entity';
import { FaceEntity, FavouriteEntity } from './faces/face.entity';
import { JobUseEntity } from './jobs/job-use.entity';
import { JobMeasureEntity } from './measures/job-measure.entity';
import { JobEntity } from './jobs/job.entity';
import { RecipeEntity } from './recipes/recipe.entity';
import { PreferencesEntity } from './preferences/preferences.entity';
import { PullEntity, PullPartEntity, PullPieceEntity } from './pulls/pull.entity';
import { PictureEntity } from './pictures/picture.entity';
import { BytesEntity } from './database/bytes.entity';
import { MIGRATIONS } from './database/migrations';

/**
 * Opens the database, brings its tables up to date and switches it to write-ahead logging.
 * @param file path of the SQLite file, or `:memory:`. @param beforeUpgrade what is done before tables with something in them are changed
 */
export async function openDatabase(file: string, beforeUpgrade: (dataSource: DataSource) => Promise<void> = () => Promise.resolve()): Promise<DataSource> {
  const dataSource = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: [
      BytesEntity,
      DrillResultEntity,
      JobEntity,
      JobUseEntity,
      JobMeasureEntity,
      PreferencesEntity,
      FaceEntity,
      FavouriteEntity,
      PictureEntity,
      PullEntity,
      PullPartEntity,
      PullPieceEntity,
      RecipeEntity,
    ],
    migrations: [...MIGRATIONS],
    migrationsRun: false,
    synchronize: false,
    prepareDatabase: (database: { pragma(text: string): void }) => {
      database.pragma('journal_mode = WAL');
      // An acknowledged write is on the disk: NORMAL would keep it in the system's memory until the next checkpoint.
      database.pragma('synchronous = FULL');
      database.pragma('busy_timeout = 5000');
    },
  });
  await dataSource.initialize();
  if (await dataSource.showMigrations()) {
    const [{ tables } = { tables: 0 }] = await dataSource.query<{ tables: number }[]>("SELECT count(*) AS tables FROM sqlite_master WHERE name = 'job'");
    if (tables > 0) await beforeUpgrade(dataSource);
    await dataSource.runMigrations();
  }
  return dataSource;
}
