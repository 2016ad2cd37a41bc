import type { Injector } from '@angular/core';
import { type Job, beginJob } from '@jentrix/core/job';
import { EngineService } from '../engine/engine.service';
import type { NewJob } from './new-job-dialog';

/** A new job as it was asked for; several sizes are made from the first. @throws ApiError where the faces for that can't be had */
export async function begin({ words, sizes: [size, ...more] }: NewJob, autoFactor: number, injector: Injector): Promise<Job> {
  const job = beginJob(() => crypto.randomUUID(), { words, size, autoFactor });
  const [sheet] = job.sheets;
  return sheet && more.length > 0 ? (await injector.get(EngineService).sizes(job, sheet.id, more)).job : job;
}
