/** The parts of a server on one database, put together. */
import { join } from 'node:path';
import type { DataSource } from 'typeorm';
import { BackupsService } from './backups/backups.service';
import { CatalogueService } from './faces/catalogue/catalogue.service';
import { DatabaseFile } from './database/database-file';
import { FaceLibrary } from './faces/face-library';
import { JobFiler } from './filing/job-filer';
import { JobsService } from './jobs/jobs.service';
import { Presence } from './jobs/presence';
import { PicturesService } from './pictures/pictures.service';
import { Workshop } from './pool/workshop';
import { PreferencesService } from './preferences/preferences.service';
import { PullsService } from './pulls/pulls.service';

export interface Parts {
  dataSource: DataSource;
  file: DatabaseFile;
  backups: BackupsService;
  workshop: Workshop;
  jobs: JobsService;
  presence: Presence;
  pulls: PullsService;
  preferences: PreferencesService;
  pictures: PicturesService;
  library: FaceLibrary;
}

export interface Folders {
  /** The file of the database, or `:memory:`. */
  database: string;
  /** Of the shipped faces. */
  faces: string;
  /** For files in between, of this process alone. */
  spool: string;
  /** For copies of the database. */
  backups: string;
  /** All of them but the faces lie in it, where that is one folder. */
  data?: string;
  /** Takes the data folder for this server anew. */
  claim?: () => void;
}

export function assemble(dataSource: DataSource, { database, faces, spool, backups, data, claim = () => undefined }: Folders): Parts {
  const workshop = new Workshop(spool, data);
  const file = new DatabaseFile(dataSource, database);
  const filer = new JobFiler(workshop);
  const jobs = new JobsService(dataSource, filer);
  const preferences = new PreferencesService(dataSource);
  const library = new FaceLibrary(faces, new CatalogueService(join(faces, 'catalogue')), dataSource, workshop);
  const restored = async (): Promise<void> => {
    workshop.spool.forget();
    await jobs.tellOfAll();
  };
  return {
    dataSource,
    file,
    backups: new BackupsService(dataSource, file, backups, restored, claim),
    workshop,
    jobs,
    presence: new Presence(),
    preferences,
    pulls: new PullsService(dataSource, jobs, filer, workshop, preferences),
    pictures: new PicturesService(dataSource, workshop),
    library,
  };
}

/** Ends what the parts hold. */
export async function close({ workshop, dataSource, backups, presence }: Pick<Parts, 'workshop' | 'dataSource' | 'backups' | 'presence'>): Promise<void> {
  presence.close();
  backups.stop();
  workshop.close();
  await dataSource.destroy();
}
