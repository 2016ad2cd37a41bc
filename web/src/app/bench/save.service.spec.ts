import { TestBed } from '@angular/core/testing';
import type { JobRecord } from '@jentrix/core/api';
import { type Job, createJob, retitle } from '@jentrix/core/job';
import { type Observable, of, throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { type Draft, DraftStore } from './drafts';
import { SaveService } from './save.service';
import { UnsentService } from './unsent.service';

const base = createJob('Start', () => crypto.randomUUID());

/** A server that holds one job, and can be away. */
class FakeApi {
  record: JobRecord = { id: 'j', revision: 1, updatedAt: '', job: base };
  away = false;
  gone = false;
  writes = 0;
  /** Writes that are taken, but whose answers are lost. */
  losing = 0;
  failing = 0;

  readJob(): Observable<JobRecord> {
    return of(this.record);
  }

  replaceJob(_id: string, basedOn: number, job: Job): Observable<JobRecord> {
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

class FakeDrafts {
  draft: Draft | undefined;
  async keep(jobId: string, basedOn: number, job: Job, attempts: readonly Job[]): Promise<void> {
    this.draft = { jobId, tabId: 't', basedOn, job, attempts, savedAt: 0 };
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

describe('saving', () => {
  let api: FakeApi;
  let drafts: FakeDrafts;
  let save: SaveService;
  const titled = (title: string): Job => retitle(base, title);
  const settled = () => new Promise((resolve) => setTimeout(resolve, 0));

  beforeEach(() => {
    api = new FakeApi();
    drafts = new FakeDrafts();
    TestBed.configureTestingModule({
      providers: [
        SaveService,
        { provide: ApiService, useValue: api },
        { provide: DraftStore, useValue: drafts },
        { provide: UnsentService, useValue: { look: () => Promise.resolve() } },
      ],
    });
    save = TestBed.inject(SaveService);
  });
  afterEach(() => save.close());

  it('sends the last of several edits, once', async () => {
    await save.open('j');
    save.update(titled('a'));
    save.update(titled('b'));
    expect(save.state.kind).toBe('saving');
    expect(await save.flush()).toBeTrue();
    expect(api.record.job.title).toBe('b');
    expect(api.writes).toBe(1);
    expect(drafts.draft).toBeUndefined();
  });

  it('keeps edits in the browser while the server is away, and sends them later', async () => {
    await save.open('j');
    api.away = true;
    save.update(titled('kept'));
    expect(await save.flush()).toBeFalse();
    expect(save.state.kind).toBe('offline');
    save.update(titled('kept too'));
    await settled();
    expect(drafts.draft?.job.title).toBe('kept too');
    api.away = false;
    expect(await save.flush()).toBeTrue();
    expect(api.record.job.title).toBe('kept too');
  });

  it('takes up a draft made on the current revision, and sends it', async () => {
    drafts.draft = { jobId: 'j', tabId: 't', basedOn: 1, job: titled('draft'), attempts: [], savedAt: 0 };
    expect((await save.open('j')).title).toBe('draft');
    await settled();
    await settled();
    expect(api.record.job.title).toBe('draft');
  });

  it('asks when a draft was made on an older revision', async () => {
    drafts.draft = { jobId: 'j', tabId: 't', basedOn: 1, job: titled('draft'), attempts: [], savedAt: 0 };
    api.record = { ...api.record, revision: 4, job: titled('theirs') };
    expect((await save.open('j')).title).toBe('draft');
    expect(save.state.kind).toBe('conflict');
    expect(api.record.job.title).toBe('theirs');
    await save.keepMine();
    expect(api.record).toEqual(jasmine.objectContaining({ revision: 5, job: titled('draft') }));
  });

  it('holds a conflict until one version is chosen', async () => {
    await save.open('j');
    api.record = { ...api.record, revision: 2, job: titled('theirs') };
    save.update(titled('mine'));
    expect(await save.flush()).toBeFalse();
    expect(save.state.kind).toBe('conflict');
    save.update(titled('mine, further'));
    expect(await save.flush()).toBeFalse();
    expect(save.takeTheirs()?.title).toBe('theirs');
    expect(save.state.kind).toBe('saved');
    save.update(titled('after'));
    expect(await save.flush()).toBeTrue();
    expect(api.record.revision).toBe(3);
  });

  it('keeps both versions of a conflict', async () => {
    await save.open('j');
    api.record = { ...api.record, revision: 2, job: titled('theirs') };
    save.update(titled('mine'));
    await save.flush();
    expect(await save.keepBoth('mine (copy)')).toBe('copy');
    expect(api.record.job.title).toBe('theirs');
  });

  it('puts a job back that was trashed meanwhile', async () => {
    await save.open('j');
    api.gone = true;
    save.update(titled('mine'));
    await save.flush();
    expect(save.state.kind).toBe('gone');
    await save.keepMine();
    expect(save.state.kind).toBe('saved');
    expect(api.record.job.title).toBe('mine');
  });

  it('takes a write whose answer was lost for its own, and goes on from there', async () => {
    await save.open('j');
    api.losing = 1;
    save.update(titled('first'));
    expect(await save.flush()).toBeFalse();
    save.update(titled('second'));
    await save.flush();
    await save.flush();
    expect(save.state.kind).not.toBe('conflict');
    await new Promise((resolve) => setTimeout(resolve, 10));
    expect(save.state.kind).toBe('saved');
    expect(api.record).toEqual(jasmine.objectContaining({ revision: 3, job: titled('second') }));
  });

  it('knows a lost answer after the window was closed too', async () => {
    drafts.draft = { jobId: 'j', tabId: 't', basedOn: 1, job: titled('later'), attempts: [titled('sent')], savedAt: 0 };
    api.record = { ...api.record, revision: 2, job: titled('sent') };
    await save.open('j');
    expect(save.state.kind).not.toBe('conflict');
    await settled();
    await settled();
    expect(api.record).toEqual(jasmine.objectContaining({ revision: 3, job: titled('later') }));
  });

  it('asks a server that broke off again', async () => {
    await save.open('j');
    api.failing = 2;
    save.update(titled('once more'));
    await save.flush();
    expect(api.failing).toBe(0);
    expect(save.state.kind).toBe('saving');
    await save.flush();
    expect(api.record.job.title).toBe('once more');
    api.failing = 9;
    save.update(titled('never'));
    for (let i = 0; i < 4; i++) await save.flush();
    expect(save.state.kind).toBe('refused');
  });
});
