import { packageFormat } from '@jentrix/core/formats';
import { Router } from 'express';
import { handFile } from '../http/send-file';
import type { JobsService } from '../jobs/jobs.service';
import type { PackagesService } from './packages.service';

/** Mounted beside the jobs' own routes: a job with all it rests on in one file. */
export function packagesRouter(packages: PackagesService, jobs: JobsService): Router {
  return Router().get(`/:id/${packageFormat.id}`, async (request, response) => {
    const file = await packages.make(await jobs.stored(request.params.id));
    response.attachment(file.name + packageFormat.extension);
    await handFile(response, file, packageFormat.mediaType);
  });
}
