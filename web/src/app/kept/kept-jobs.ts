import { Injectable } from '@angular/core';
import type { JobRecord } from '@jentrix/core/api';
import { readJob } from '@jentrix/core/job';
import { keptDatabase } from './kept-database';

/** Jobs as the server was last known to have them, in the browser's own database. */
@Injectable({ providedIn: 'root' })
export class KeptJobs {
  /** Keeps a job as the server has it. Without storage, as in private windows, nothing is kept. */
  async keep(record: JobRecord): Promise<void> {
    await keptDatabase()
      .then((database) => database.put('jobs', record))
      .catch(() => undefined);
  }

  /** A job as it was kept last; undefined where it was not, or can't be read. */
  async job(id: string): Promise<JobRecord | undefined> {
    try {
      const record = await (await keptDatabase()).get('jobs', id);
      return record && { ...record, job: readJob(record.job) };
    } catch {
      return undefined;
    }
  }
}
