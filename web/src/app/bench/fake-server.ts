/** For specs only: a server that holds one job, and a browser that keeps one draft. */
import type { JobRecord, Saved } from '@jentrix/core/api';
import { type Job, jobSchema } from '@jentrix/core/job';
import { type Observable, Subject, of, throwError } from 'rxjs';
import { ApiError, type JobEvent } from '../api/api.service';
import type { Draft } from '../kept/drafts';

/** A server that holds one job, and can be away. */
export class FakeServer {
  record: JobRecord;
  away = false;
  gone = false;
  writes = 0;
  /** Writes that are taken, but whose answers are lost. */
  losing = 0;
  failing = 0;

  readonly events = new Subject<JobEvent>();

  constructor(job: Job) {
    this.record = { id: 'j', revision: 1, updatedAt: '', job };
  }

  /** Somebody else writes. */
  written(job: Job): void {
    this.record = { ...this.record, revision: this.record.revision + 1, job: jobSchema.parse(JSON.parse(JSON.stringify(job))) };
    this.events.next({ revision: this.record.revision });
  }

  readJob(): Observable<JobRecord> {
    if (this.away) return throwError(() => new ApiError('offline', 'away'));
    return of(this.record);
  }

  eventsOf(): Observable<JobEvent> {
    return this.events;
  }

  replaceJob(_id: string, basedOn: number, job: Job): Observable<Saved> {
    this.writes++;
    if (this.away) return throwError(() => new ApiError('offline', 'away'));
    if (this.failing > 0) {
      this.failing--;
      return throwError(() => new ApiError('failed', 'broke off'));
    }
    if (this.gone) return throwError(() => new ApiError('not-found', 'gone'));
    if (basedOn !== this.record.revision) return throwError(() => new ApiError('stale', 'stale', this.record));
    this.record = { ...this.record, revision: basedOn + 1, job };
    if (this.losing > 0) {
      this.losing--;
      return throwError(() => new ApiError('offline', 'lost'));
    }
    return of(this.record);
  }

  restoreJob(): Observable<unknown> {
    this.gone = false;
    return of({});
  }

  createJob(job: Job): Observable<JobRecord> {
    return of({ id: 'copy', revision: 1, updatedAt: '', job });
  }
}

export class FakeDrafts {
  draft: Draft | undefined;
  async keep(draft: Omit<Draft, 'tabId' | 'savedAt'>): Promise<void> {
    this.draft = { ...draft, tabId: 't', savedAt: 0 };
    return Promise.resolve();
  }
  claim(): void {
    // Nobody else sends here.
  }
  async drop(): Promise<void> {
    this.draft = undefined;
    return Promise.resolve();
  }
  async adopt(): Promise<Draft | undefined> {
    return Promise.resolve(this.draft);
  }
}

/** A browser that keeps the job as it was last saved. */
export class FakeKept {
  record: JobRecord | undefined;
  keep(record: JobRecord): Promise<void> {
    this.record = record;
    return Promise.resolve();
  }
  job(): Promise<JobRecord | undefined> {
    return Promise.resolve(this.record);
  }
}
