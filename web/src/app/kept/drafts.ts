import { Injectable } from '@angular/core';
import { readJob, type Job, JobFormatError } from '@jentrix/core/job';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { orphaned, ownTab } from './tab';

/** Version of drafts that is written. Version 2 had no base; drafts without a version had no attempts either. The jobs in them carry their own. */
const DRAFT_VERSION = 3;

/** A job as edited in one tab and not yet taken by the server. */
export interface Draft {
  jobId: string;
  tabId: string;
  /** The revision the edits were made on. */
  basedOn: number;
  /** The job at that revision: what others write is put together with the edits from there. Unknown in drafts of earlier versions. */
  base: Job | null;
  job: Job;
  /** Jobs sent since and never answered: where the server has just that, it is this window's own work. */
  attempts: readonly Job[];
  savedAt: number;
}

/** A draft as the browser's database holds it. */
interface StoredDraft extends Draft {
  version: number;
}

interface Schema extends DBSchema {
  drafts: { key: [string, string]; value: StoredDraft; indexes: { jobId: string } };
}

/** Unsaved edits in the browser's own database, one a job and tab, so that a reload or a lost server costs nothing. */
@Injectable({ providedIn: 'root' })
export class DraftStore {
  private readonly database: Promise<IDBPDatabase<Schema>> = openDB<Schema>('jentrix', 1, {
    upgrade: (database) => {
      database.createObjectStore('drafts', { keyPath: ['jobId', 'tabId'] }).createIndex('jobId', 'jobId');
    },
  });
  /** Both once they are there: then a write begins in the very turn of the edit. */
  private open: { database: IDBPDatabase<Schema>; tabId: string } | undefined;
  private readonly opening = Promise.all([this.database, ownTab()]).then(([database, tabId]) => (this.open = { database, tabId }));
  /** The job on this tab's bench. */
  private onBench: string | undefined;

  constructor() {
    // Private windows may have no storage; who asks is told.
    this.opening.catch(() => undefined);
  }

  /** Keeps the newest state of a job. The write has begun when this returns; later ones come after it. */
  async keep(draft: Omit<Draft, 'tabId' | 'savedAt'>): Promise<void> {
    const { database, tabId } = this.open ?? (await this.opening);
    const transaction = database.transaction('drafts', 'readwrite');
    // What is put and committed at once is with the browser, whatever becomes of this window.
    const put = transaction.store.put({ ...draft, version: DRAFT_VERSION, tabId, savedAt: Date.now() });
    transaction.commit();
    await Promise.all([put, transaction.done]);
  }

  async drop(jobId: string): Promise<void> {
    const { database, tabId } = this.open ?? (await this.opening);
    await database.delete('drafts', [jobId, tabId]);
  }

  /** Says which job is on this tab's bench: its draft is sent from there. */
  claim(jobId: string | undefined): void {
    this.onBench = jobId;
  }

  /**
   * The newest draft of a job that is this tab's own or was left by a tab that is gone; it becomes this tab's.
   * Drafts of tabs that are still open are theirs. One that can't be read is dropped.
   */
  async adopt(jobId: string): Promise<Draft | undefined> {
    const [own] = (await this.left()).filter((draft) => draft.jobId === jobId);
    return own && this.taken(own);
  }

  /** The drafts that no open bench looks after, the newest of each job; they become this tab's. */
  async unsent(): Promise<Draft[]> {
    const newest = new Map<string, StoredDraft>();
    for (const draft of await this.left()) if (draft.jobId !== this.onBench && !newest.has(draft.jobId)) newest.set(draft.jobId, draft);
    const taken = await Promise.all([...newest.values()].map((draft) => this.taken(draft)));
    return taken.filter((draft) => draft !== undefined);
  }

  /** This tab's drafts and those of tabs that are gone, the newest first. */
  private async left(): Promise<StoredDraft[]> {
    const { database } = this.open ?? (await this.opening);
    const isFree = await orphaned();
    return (
      (await database.getAll('drafts'))
        // What a newer Jentrix has kept waits for it.
        .filter(({ version = 1 }: Partial<StoredDraft>) => version <= DRAFT_VERSION)
        .filter(({ tabId }) => isFree(tabId))
        .sort((a, b) => b.savedAt - a.savedAt)
    );
  }

  private async taken(own: StoredDraft): Promise<Draft | undefined> {
    const { database, tabId } = this.open ?? (await this.opening);
    try {
      const draft = { ...upgraded(own), tabId };
      if (own.tabId !== tabId) {
        await database.put('drafts', draft);
        await database.delete('drafts', [own.jobId, own.tabId]);
      }
      return draft;
    } catch (error) {
      if (!(error instanceof JobFormatError)) throw error;
      await database.delete('drafts', [own.jobId, own.tabId]);
      return undefined;
    }
  }
}

/**
 * A draft of any version, brought up to date.
 * @throws JobFormatError where its job can't be read.
 */
function upgraded(stored: StoredDraft): StoredDraft {
  const { attempts = [], base = null } = stored as Partial<StoredDraft>;
  return { ...stored, version: DRAFT_VERSION, base: base && readJob(base), job: readJob(stored.job), attempts: attempts.map((job) => readJob(job)) };
}
