import { Injectable } from '@angular/core';
import { readJob } from '@jentrix/core/formats';
import type { Job } from '@jentrix/core/job';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

/** A job as edited in one tab and not yet taken by the server. */
export interface Draft {
  jobId: string;
  tabId: string;
  /** The revision the edits were made on. */
  basedOn: number;
  job: Job;
  savedAt: number;
}

interface Schema extends DBSchema {
  drafts: { key: [string, string]; value: Draft; indexes: { jobId: string } };
}

const TAB_KEY = 'jentrix-tab';
const lockName = (tabId: string): string => `jentrix-tab-${tabId}`;

/** Unsaved edits in the browser's own database, one a job and tab, so that a reload or a lost server costs nothing. */
@Injectable({ providedIn: 'root' })
export class DraftStore {
  private readonly database: Promise<IDBPDatabase<Schema>> = openDB<Schema>('jentrix', 1, {
    upgrade: (database) => {
      database.createObjectStore('drafts', { keyPath: ['jobId', 'tabId'] }).createIndex('jobId', 'jobId');
    },
  });
  private readonly tabId = claimTab();

  async keep(jobId: string, basedOn: number, job: Job): Promise<void> {
    const draft: Draft = { jobId, tabId: await this.tabId, basedOn, job, savedAt: Date.now() };
    await (await this.database).put('drafts', draft);
  }

  async drop(jobId: string): Promise<void> {
    await (await this.database).delete('drafts', [jobId, await this.tabId]);
  }

  /**
   * The newest draft of a job that is this tab's own or was left by a tab that is gone; it becomes this tab's.
   * Drafts of tabs that are still open are theirs. One that can't be read is dropped.
   */
  async adopt(jobId: string): Promise<Draft | undefined> {
    const database = await this.database;
    const tabId = await this.tabId;
    const all = (await database.getAllFromIndex('drafts', 'jobId', jobId)).sort((a, b) => b.savedAt - a.savedAt);
    const { held = [] } = await navigator.locks.query();
    const open = new Set(held.map(({ name }) => name));
    const own = all.find((draft) => draft.tabId === tabId || !open.has(lockName(draft.tabId)));
    if (!own) return undefined;
    try {
      const draft = { ...own, tabId, job: readJob(own.job) };
      if (own.tabId !== tabId) {
        await database.put('drafts', draft);
        await database.delete('drafts', [jobId, own.tabId]);
      }
      return draft;
    } catch {
      await database.delete('drafts', [jobId, own.tabId]);
      return undefined;
    }
  }
}

/** This tab's identifier, kept over reloads; a duplicated tab finds it taken and gets its own. The lock is held while the tab lives. */
async function claimTab(): Promise<string> {
  const stored = sessionStorage.getItem(TAB_KEY);
  if (stored !== null && (await holdLock(stored))) return stored;
  const made = crypto.randomUUID();
  await holdLock(made);
  sessionStorage.setItem(TAB_KEY, made);
  return made;
}

function holdLock(tabId: string): Promise<boolean> {
  return new Promise((resolve) => {
    void navigator.locks.request(lockName(tabId), { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock ? new Promise<never>(() => undefined) : undefined;
    });
  });
}
