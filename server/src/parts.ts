/** The parts of a server on one database, put together. */
import { join } from 'node:path';
import type { DataSource } from 'typeorm';
import { CatalogueService } from './catalogue/catalogue.service';
import { FaceLibrary } from './faces/face-library';
import { JobFiler } from './jobs/job-filer';
import { JobsService } from './jobs/jobs.service';
import { PicturesService } from './pictures/pictures.service';
import { Workshop } from './pool/workshop';
import { PreferencesService } from './preferences/preferences.service';
import { PullsService } from './pulls/pulls.service';

export interface Parts {
  dataSource: DataSource;
  workshop: Workshop;
  jobs: JobsService;
  pulls: PullsService;
  preferences: PreferencesService;
  pictures: PicturesService;
  library: FaceLibrary;
}

/** @param faces folder of the shipped faces. @param spool folder for files in between; emptied. */
export function assemble(dataSource: DataSource, faces: string, spool: string): Parts {
  const workshop = new Workshop(spool);
  const filer = new JobFiler(workshop.reading);
  const jobs = new JobsService(dataSource, filer);
  const preferences = new PreferencesService(dataSource);
  return {
    dataSource,
    workshop,
    jobs,
    preferences,
    pulls: new PullsService(dataSource, jobs, filer, workshop, preferences),
    pictures: new PicturesService(dataSource, workshop),
    library: new FaceLibrary(faces, new CatalogueService(join(faces, 'catalogue')), dataSource, workshop),
  };
}

/** Ends what the parts hold. */
export async function close({ workshop, dataSource }: Pick<Parts, 'workshop' | 'dataSource'>): Promise<void> {
  workshop.close();
  await dataSource.destroy();
}
