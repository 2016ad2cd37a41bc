/** The parts of a server on one database, put together. */
import { join } from 'node:path';
import type { DataSource } from 'typeorm';
import { CatalogueService } from './catalogue/catalogue.service';
import { FaceLibrary } from './faces/face-library';
import { JobFiler } from './jobs/job-filer';
import { JobsService } from './jobs/jobs.service';
import { PicturesService } from './pictures/pictures.service';
import { Workshop } from './pool/workshop';

export interface Parts {
  dataSource: DataSource;
  workshop: Workshop;
  jobs: JobsService;
  pictures: PicturesService;
  library: FaceLibrary;
}

/** @param faces folder of the shipped faces. @param spool folder for files in between; emptied. */
export function assemble(dataSource: DataSource, faces: string, spool: string): Parts {
  const workshop = new Workshop(spool);
  return {
    dataSource,
    workshop,
    jobs: new JobsService(dataSource, new JobFiler(workshop.reading)),
    pictures: new PicturesService(dataSource, workshop),
    library: new FaceLibrary(faces, new CatalogueService(join(faces, 'catalogue')), dataSource, workshop),
  };
}

/** Ends what the parts hold. */
export async function close({ workshop, dataSource }: Pick<Parts, 'workshop' | 'dataSource'>): Promise<void> {
  workshop.close();
  await dataSource.destroy();
}
