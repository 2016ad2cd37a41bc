import type { JobRecord } from '@jentrix/core/api';
import type { Job } from '@jentrix/core/job';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

/** The steps of a visit: what can be taken back and made again, around the job as it was left. */
export interface KeptSteps {
  past: readonly Job[];
  present: Job;
  future: readonly Job[];
}

/** Steps as the browser's database holds them. States share what they have in common, there too. */
export interface StoredSteps extends KeptSteps {
  jobId: string;
  tabId: string;
  /** The format of all its jobs: steps of another are dropped. */
  jobVersion: number;
  savedAt: number;
}

export interface KeptSchema extends DBSchema {
  jobs: { key: string; value: JobRecord };
  steps: { key: [string, string]; value: StoredSteps; indexes: { jobId: string; savedAt: number } };
}

let opened: Promise<IDBPDatabase<KeptSchema>> | undefined;

/** The browser's own database of jobs and steps. Private windows may have none: then it rejects. */
export function keptDatabase(): Promise<IDBPDatabase<KeptSchema>> {
  return (opened ??= openDB<KeptSchema>('jentrix-kept', 1, {
    upgrade: (database) => {
      database.createObjectStore('jobs', { keyPath: 'id' });
      const steps = database.createObjectStore('steps', { keyPath: ['jobId', 'tabId'] });
      steps.createIndex('jobId', 'jobId');
      steps.createIndex('savedAt', 'savedAt');
    },
    // A newer Jentrix in another window is not held up.
    blocking: (_current, _blocked, event) => (event.target as IDBDatabase).close(),
  }));
}
