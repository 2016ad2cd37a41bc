import { TestBed } from '@angular/core/testing';
import type { JobRecord } from '@jentrix/core/api';
import { type Job, createBlock, createJob, jobSchema, restyle, retitle } from '@jentrix/core/job';
import { type Observable, Subject, of, throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { type Draft, DraftStore } from './drafts';
import { type Came, SaveService } from './save.service';
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

  readonly revisions = new Subject<number>();

  readJob(): Observable<JobRecord> {
    return of(this.record);
  }

  revisionsOf(): Observable<number> {
    return this.revisions;
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

  describe('while others write', () => {
    const block = (id: string) => createBlock(id, id, { xPt: 0, yPt: 0, widthPt: 100, heightPt: 20 });
    const two: Job = { ...base, sheets: [{ ...base.sheets[0]!, blocks: [block('a'), block('b')] }] };
    const tracked = (job: Job, id: string, milliem: number): Job => restyle(job, id, { trackingMilliem: milliem });
    const trackings = (job: Job): number[] => job.sheets[0]!.blocks.map(({ style }) => style.trackingMilliem);
    /** Somebody else writes. */
    const theirs = (job: Job): void => {
      api.record = { ...api.record, revision: api.record.revision + 1, job: jobSchema.parse(JSON.parse(JSON.stringify(job))) };
      api.revisions.next(api.record.revision);
    };
    let came: Came[];
    const until = async (test: () => boolean): Promise<void> => {
      for (let i = 0; i < 200 && !test(); i++) await new Promise((done) => setTimeout(done, 5));
      expect(test()).withContext(String(test)).toBeTrue();
    };
    beforeEach(async () => {
      api.record = { ...api.record, job: two };
      came = [];
      save.came$.subscribe((one) => came.push(one));
      await save.open('j');
    });

    it('takes up what they saved, without a write of its own', async () => {
      theirs(tracked(two, 'b', 30));
      await until(() => came.length === 1);
      expect([trackings(came[0]!.job), came[0]!.job.sheets[0]!.blocks[0] === two.sheets[0]!.blocks[0]]).toEqual([[0, 30], true]);
      save.update(came[0]!.job);
      expect([save.state.kind, api.writes]).toEqual(['saved', 0]);
      // Each earlier state has it too.
      expect(trackings(came[0]!.merge(tracked(two, 'a', 5)).job)).toEqual([5, 30]);
    });

    it('puts edits of different blocks together, whoever is told first', async () => {
      save.update(tracked(two, 'a', 20));
      theirs(tracked(two, 'b', 30));
      await until(() => came.length === 1);
      expect(trackings(came[0]!.job)).toEqual([20, 30]);
      await until(() => save.state.kind === 'saved');
      expect([trackings(api.record.job), api.record.revision, api.writes]).toEqual([[20, 30], 3, 1]);

      // The write is refused before anything was heard.
      api.record = { ...api.record, revision: 4, job: tracked(api.record.job, 'b', 40) };
      save.update(tracked(came[0]!.job, 'a', 25));
      await save.flush();
      await until(() => save.state.kind === 'saved');
      expect([trackings(api.record.job), api.record.revision]).toEqual([[25, 40], 5]);
    });

    it('asks where both changed one block; mine then goes on with what else they changed', async () => {
      save.update(tracked(two, 'a', 20));
      theirs(tracked(tracked(two, 'a', 7), 'b', 30));
      await until(() => save.state.kind === 'conflict');
      expect([came.length, api.writes]).toEqual([0, 0]);
      await save.keepMine();
      await until(() => save.state.kind === 'saved');
      expect([trackings(api.record.job), trackings(came[0]!.job)]).toEqual([
        [20, 30],
        [20, 30],
      ]);
    });

    it('hears nothing any more once it is closed', async () => {
      save.close();
      theirs(tracked(two, 'b', 30));
      await settled();
      expect([came.length, api.revisions.observed]).toEqual([0, false]);
    });
  });
});
