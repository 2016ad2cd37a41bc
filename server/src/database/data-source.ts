import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { FaceEntity, FavouriteEntity } from '../faces/face.entity';
import { JobEntity } from '../jobs/job.entity';
import { RecipeEntity } from '../recipes/recipe.entity';
import { PreferencesEntity } from '../preferences/preferences.entity';
import { PictureEntity } from '../pictures/picture.entity';
import { Initial1764000000000 } from './migrations/1764000000000-initial';
import { FacesAndPictures1764100000000 } from './migrations/1764100000000-faces-and-pictures';
import { Recipes1764200000000 } from './migrations/1764200000000-recipes';

/**
 * Opens the database, brings its tables up to date and switches it to write-ahead logging.
 * @param file path of the SQLite file, or `:memory:`.
 */
export async function openDatabase(file: string): Promise<DataSource> {
  const dataSource = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: [JobEntity, PreferencesEntity, FaceEntity, FavouriteEntity, PictureEntity, RecipeEntity],
    migrations: [Initial1764000000000, FacesAndPictures1764100000000, Recipes1764200000000],
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
