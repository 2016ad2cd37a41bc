import { TestBed } from '@angular/core/testing';
import type { JobRecord } from '@jentrix/core/api';
import { type Job, createJob, retitle, withLanguage } from '@jentrix/core/job';
import { type Observable, of, throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { type Draft, DraftStore } from '../kept/drafts';
import { type Unsent, UnsentService } from './unsent.service';

const base = createJob('Start', () => crypto.randomUUID());
const titled = (title: string): Job => retitle(base, title);
const draftOf = (jobId: string, basedOn: number, title: string, attempts: readonly Job[] = []): Draft => ({
  jobId,
  tabId: 't',
  basedOn,
  base,
  job: titled(title),
  attempts,
  savedAt: 0,
});

class FakeDrafts {
  drafts: Draft[] = [];
  unsent(): Promise<Draft[]> {
    return Promise.resolve([...this.drafts]);
  }
  drop(jobId: string): Promise<void> {
    this.drafts = this.drafts.filter((draft) => draft.jobId !== jobId);
    return Promise.resolve();
  }
}

class FakeApi {
  away = false;
  readonly records = new Map<string, JobRecord>();
  readonly created: Job[] = [];
  replaceJob(id: string, basedOn: number, job: Job): Observable<JobRecord> {
    const record = this.records.get(id);
    if (this.away) return throwError(() => new ApiError('offline', 'away'));
    if (!record) return throwError(() => new ApiError('not-found', 'gone'));
    if (record.revision !== basedOn) return throwError(() => new ApiError('stale', 'stale', record));
    const next = { ...record, revision: basedOn + 1, job };
    this.records.set(id, next);
    return of(next);
  }
  createJob(job: Job): Observable<JobRecord> {
    this.created.push(job);
    return of({ id: 'new', revision: 1, updatedAt: '', job });
  }
}

describe('edits that wait', () => {
  let api: FakeApi;
  let drafts: FakeDrafts;
  let service: UnsentService;
  let shown: readonly Unsent[];
  beforeEach(() => {
    jasmine.clock().install();
    api = new FakeApi();
    drafts = new FakeDrafts();
    for (const id of ['a', 'b']) api.records.set(id, { id, revision: 1, updatedAt: '', job: base });
    TestBed.configureTestingModule({
      providers: [
        { provide: ApiService, useValue: api },
        { provide: DraftStore, useValue: drafts },
      ],
    });
    service = TestBed.inject(UnsentService);
    service.unsent$.subscribe((unsent) => (shown = unsent));
  });
  afterEach(() => jasmine.clock().uninstall());

  it('are shown while the server is away and sent when it is back, without their jobs being opened', async () => {
    drafts.drafts = [draftOf('a', 1, 'one'), draftOf('b', 1, 'two')];
    api.away = true;
    await service.look();
    expect(shown.map(({ title, kind }) => [title, kind])).toEqual([
      ['one', 'waiting'],
      ['two', 'waiting'],
    ]);
    api.away = false;
    const again = spyOn(service, 'look').and.callThrough();
    jasmine.clock().tick(4100);
    expect(again).toHaveBeenCalled();
    await service.look();
    expect(shown).toEqual([]);
    expect(api.records.get('b')?.job.title).toBe('two');
    expect(drafts.drafts).toEqual([]);
  });

  it('wait for a decision where the server has another version, but not where that is their own', async () => {
    api.records.set('a', { id: 'a', revision: 2, updatedAt: '', job: titled('theirs') });
    api.records.set('b', { id: 'b', revision: 2, updatedAt: '', job: titled('sent') });
    drafts.drafts = [draftOf('a', 1, 'mine'), draftOf('b', 1, 'later', [titled('sent')])];
    await service.look();
    expect(shown).toEqual([{ jobId: 'a', title: 'mine', kind: 'conflict' }]);
    expect(api.records.get('a')?.job.title).toBe('theirs');
    expect(api.records.get('b')).toEqual(jasmine.objectContaining({ revision: 3, job: titled('later') }));
  });

  it('are put together with what somebody else wrote elsewhere in the job', async () => {
    api.records.set('a', { id: 'a', revision: 5, updatedAt: '', job: withLanguage(base, 'de') });
    drafts.drafts = [draftOf('a', 1, 'mine')];
    await service.look();
    expect([shown, drafts.drafts]).toEqual([[], []]);
    expect(api.records.get('a')).toEqual(jasmine.objectContaining({ revision: 6, job: withLanguage(titled('mine'), 'de') }));
  });

  it('of a job that is gone become a job, or are let go', async () => {
    drafts.drafts = [draftOf('none', 1, 'orphan'), draftOf('nobody', 1, 'other')];
    await service.look();
    expect(shown.map(({ kind }) => kind)).toEqual(['gone', 'gone']);
    await service.keepAsJob('none');
    expect(api.created.map(({ title }) => title)).toEqual(['orphan']);
    await service.letGo('nobody');
    expect(shown).toEqual([]);
    expect(api.created.length).toBe(1);
  });
});
