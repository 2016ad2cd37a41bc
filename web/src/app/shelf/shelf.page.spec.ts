import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { JobMeasure, JobPage, JobQuery, JobRecord, JobSummary } from '@jentrix/core/api';
import { writeJobFile } from '@jentrix/core/formats';
import type { Job } from '@jentrix/core/job';
import { BehaviorSubject, type Observable, defer, of, throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { FakePreferences, sample } from '../bench/testing';
import { type Unsent, UnsentService } from '../bench/unsent.service';
import { PreferencesService } from '../ui/preferences.service';
import { enter, named, offer, pageProviders, press, until } from '../ui/testing';
import { ToastService } from '../ui/toasts';
import { ShelfPage } from './shelf.page';

const summary = (id: string, title: string, deletedAt: string | null = null): JobSummary => ({
  id,
  title,
  kind: 'poster',
  revision: 3,
  sheetCount: id === 'one' ? 1 : 2,
  aspect: 0.7,
  createdAt: '2026-08-01T10:00:00Z',
  updatedAt: '2026-08-12T21:30:00Z',
  deletedAt,
});

/** A shelf in memory. */
class FakeApi {
  jobs = [summary('one', 'Perseids poster'), summary('two', 'Lecture slides')];
  readonly asked: JobQuery[] = [];
  readonly created: Job[] = [];
  away = false;
  listJobs(query: JobQuery): Observable<JobPage> {
    return defer(() => {
      this.asked.push(query);
      if (this.away) return throwError(() => new ApiError('offline', 'The server can’t be reached.'));
      const items = this.jobs.filter(({ title, deletedAt }) => title.includes(query.q ?? '') && (deletedAt !== null) === (query.trash === 'true'));
      return of({ items, total: items.length, page: Number(query.page), pageSize: 12 });
    });
  }
  readonly came: unknown[] = [];
  createJob(job: Job, kept?: unknown): Observable<JobRecord> {
    this.created.push(job);
    this.came.push(kept);
    return of({ id: 'new', revision: 1, updatedAt: '', job });
  }
  measureJob(id: string): Observable<JobMeasure> {
    return id === 'one' ? of({ evenness: 97, findings: 0 }) : id === 'two' ? of({ evenness: null, findings: 3 }) : throwError(() => new Error('damaged'));
  }
  duplicateJob(id: string): Observable<unknown> {
    const job = this.jobs.find((one) => one.id === id);
    if (job) this.jobs.push({ ...job, id: `${id}-copy`, title: `${job.title} copy` });
    return of(undefined);
  }
  readonly trashJob = (id: string): Observable<unknown> => this.move(id, '2026-08-13T00:00:00Z');
  readonly restoreJob = (id: string): Observable<unknown> => this.move(id, null);
  purgeJob(id: string): Observable<unknown> {
    this.jobs = this.jobs.filter((job) => job.id !== id);
    return of(undefined);
  }
  private move(id: string, deletedAt: string | null): Observable<unknown> {
    this.jobs = this.jobs.map((job) => (job.id === id ? { ...job, deletedAt } : job));
    return of(undefined);
  }
}

/** Edits that wait in this browser. */
class FakeUnsent {
  readonly unsent$ = new BehaviorSubject<readonly Unsent[]>([]);
  readonly kept: string[] = [];
  keepAsJob(jobId: string): Promise<void> {
    this.kept.push(jobId);
    return this.letGo(jobId);
  }
  letGo(jobId: string): Promise<void> {
    this.unsent$.next(this.unsent$.value.filter((one) => one.jobId !== jobId));
    return Promise.resolve();
  }
}

describe('shelf', () => {
  let api: FakeApi;
  let fixture: ComponentFixture<ShelfPage>;
  let waiting: FakeUnsent;
  let toasts: readonly { message: string; action: { run: () => void } | undefined }[];
  let went: jasmine.Spy;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const titles = (): string[] => [...host().querySelectorAll('.names b')].map((title) => title.textContent);
  const dialog = (): HTMLElement | null => document.querySelector('ngb-modal-window');

  async function open(): Promise<void> {
    fixture = TestBed.createComponent(ShelfPage);
    TestBed.inject(ToastService).toasts$.subscribe((all) => (toasts = all));
    went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await fixture.whenStable();
  }
  /** Picks from a job's menu. */
  async function choose(title: string, what: string): Promise<void> {
    await press(fixture, `More for ${title}`, host());
    // Made-up clicks don't close menus as a pointer does: the one just opened is the last.
    await press(fixture, what, [...document.querySelectorAll('.dropdown-menu.show')].at(-1));
  }

  beforeEach(() => {
    api = new FakeApi();
    waiting = new FakeUnsent();
    TestBed.configureTestingModule({
      providers: [
        pageProviders,
        { provide: ApiService, useValue: api },
        { provide: PreferencesService, useValue: new FakePreferences() },
        { provide: UnsentService, useValue: waiting },
      ],
    });
  });

  it('shows jobs with what they are', async () => {
    await open();
    expect(titles()).toEqual(['Perseids poster', 'Lecture slides']);
    expect([...host().querySelectorAll('.names .quiet')].map((line) => line.textContent.trim())).toEqual([
      jasmine.stringContaining('poster · 1 sheet ·'),
      jasmine.stringContaining('poster · 2 sheets ·'),
    ]);
    expect(host().querySelector('img')?.getAttribute('src')).toBe('/api/jobs/one/thumbnail.png?revision=3');
    await fixture.whenStable();
    expect([...host().querySelectorAll('.open')].map(({ textContent }) => textContent)).toEqual(['clean', '3 open']);
  });

  it('searches once the typing rests, from the first page, and says when nothing is found', async () => {
    await open();
    for (const text of ['L', 'Le', 'Leo ']) await enter(fixture, 'Search titles', text, host());
    await until(() => host().textContent.includes('No title holds “Leo”'));
    expect(api.asked.map(({ q }) => q)).toEqual(['', 'Leo']);
    await enter(fixture, 'Sort by', 'title asc', host());
    expect(api.asked.at(-1)).toEqual(jasmine.objectContaining({ q: 'Leo', sort: 'title', order: 'asc', page: 1 }));
  });

  it('says that the server is away, and shows the jobs when it is back', async () => {
    api.away = true;
    await open();
    expect(host().querySelector('[role=alert]')?.textContent).toContain('The server can’t be reached.');
    api.away = false;
    await press(fixture, 'Try again', host());
    expect(titles().length).toBe(2);
  });

  it('invites to begin when it is empty', async () => {
    api.jobs = [];
    await open();
    const [first] = [...host().querySelectorAll('main button')];
    (first as HTMLElement).click();
    await until(() => went.calls.count() === 1);
    expect(api.created[0]?.title).toBe('Untitled job');
    expect(went).toHaveBeenCalledWith(['/jobs', 'new'], { state: { fresh: true } });
  });

  it('copies, throws away, and takes back', async () => {
    await open();
    await choose('Lecture slides', 'Duplicate');
    await until(() => titles().length === 3);
    await choose('Perseids poster', 'Move to trash');
    await until(() => titles().length === 2);
    expect(titles()).toEqual(['Lecture slides', 'Lecture slides copy']);
    toasts.at(-1)?.action?.run();
    await until(() => titles().length === 3);
  });

  it('deletes for good only what is in the trash, and only after asking', async () => {
    api.jobs.push(summary('old', 'Open day', '2026-07-01T00:00:00Z'));
    await open();
    await press(fixture, 'trash', host());
    expect(titles()).toEqual(['Open day']);
    await press(fixture, 'Delete for good', host());
    expect(dialog()?.textContent).toContain('Delete “Open day” for good?');
    await press(fixture, 'Cancel', dialog() ?? undefined);
    await until(() => dialog() === null);
    expect(titles()).toEqual(['Open day']);
    await press(fixture, 'Delete for good', host());
    await press(fixture, 'Delete', dialog() ?? undefined);
    await until(() => host().textContent.includes('The trash is empty'));
    expect(api.jobs.length).toBe(2);
  });

  it('takes a job file, and refuses one that is none with its reason', async () => {
    await open();
    const field = host().querySelector('input[type=file]') as HTMLInputElement;
    await offer(fixture, field, 'holiday.json', '{"photos": 3}');
    await until(() => toasts.length === 1);
    expect(toasts[0]?.message).toContain('“holiday.json” was not opened. This is not a Jentrix job');
    expect(api.created).toEqual([]);
    await offer(fixture, field, 'store.jentrix.json', writeJobFile(sample()));
    await until(() => went.calls.count() === 1);
    expect(api.created[0]?.title).toBe('Store');
    // Its pulls come along, as they are.
    await offer(fixture, field, 'store.jentrix.json', writeJobFile(sample(), { pulls: [], pieces: { a: '1' } }));
    await until(() => went.calls.count() === 2);
    expect(api.came).toEqual([undefined, { pulls: [], pieces: { a: '1' } }]);
    expect((named('New job', host()) as HTMLButtonElement).disabled).toBeFalse();
  });

  it('shows which edits are only in this browser, and saves those of a job that is gone', async () => {
    await open();
    expect(host().querySelector('.unsent')).toBeNull();
    waiting.unsent$.next([
      { jobId: 'one', title: 'Perseids poster', kind: 'waiting' },
      { jobId: 'gone', title: 'Old flyer', kind: 'gone' },
    ]);
    await fixture.whenStable();
    expect(host().querySelector('.unsent')?.textContent).toContain('Old flyer');
    expect([...host().querySelectorAll('.waits')].map((mark) => mark.textContent)).toEqual(['edits not sent yet']);
    await press(fixture, 'Keep as a job', host());
    expect(waiting.kept).toEqual(['gone']);
    expect(host().querySelector('.unsent')?.textContent).not.toContain('Old flyer');
    const listed = api.asked.length;
    await waiting.letGo('one');
    await fixture.whenStable();
    expect(host().querySelector('.unsent')).toBeNull();
    expect(api.asked.length).toBeGreaterThan(listed);
  });
});
