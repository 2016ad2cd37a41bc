import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { JobMeasure, JobPage, JobQuery, JobRecord, JobSummary, Picture } from '@jentrix/core/api';
import { writeJobFile } from '@jentrix/core/formats';
import type { Job } from '@jentrix/core/job';
import { BehaviorSubject, type Observable, defer, of, throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { FakeEngine, FakePreferences, sample } from '../bench/testing';
import { type Unsent, UnsentService } from '../offline/unsent.service';
import { EngineService } from '../engine/engine.service';
import { UserPreferences } from '../settings/user-preferences';
import { enter, named, offer, pageProviders, press, until, signalOf } from '../ui/testing';
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
  readonly taken: string[] = [];
  takeFile({ name }: File): Observable<unknown> {
    this.taken.push(name);
    return name.startsWith('bad') ? throwError(() => new ApiError('refused', 'The file is empty.')) : of({ id: 'taken', notes: ['The face “X” is not here.'] });
  }
  keepPicture(): Observable<Picture> {
    return of({ id: 'pic', type: 'image/png', width: 400, height: 200 });
  }
  readonly fonts: string[] = [];
  uploadFace({ name }: File): Observable<unknown> {
    this.fonts.push(name);
    return of({ id: 'upload', family: 'Tide', style: 'Bold' });
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
  readonly unsent = signalOf(this.unsent$);
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
        { provide: UserPreferences, useValue: new FakePreferences() },
        { provide: UnsentService, useValue: waiting },
        { provide: EngineService, useValue: new FakeEngine() },
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
    expect([...host().querySelectorAll('.open')].map(({ textContent }) => textContent.trim())).toEqual(['No findings', '3 findings']);
  });

  it('searches once the typing rests, from the first page, and says when nothing is found', async () => {
    await open();
    for (const text of ['L', 'Le', 'Leo ']) await enter(fixture, 'Search titles', text, host());
    await until(() => host().textContent.includes('No jobs match “Leo”'));
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
    await until(() => document.querySelector('jx-new-job-dialog') !== null);
    named('Create').click();
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
    await press(fixture, 'Trash', host());
    expect(titles()).toEqual(['Open day']);
    await press(fixture, 'Delete permanently', host());
    expect(dialog()?.textContent).toContain('Delete “Open day” permanently?');
    await press(fixture, 'Cancel', dialog() ?? undefined);
    await until(() => dialog() === null);
    expect(titles()).toEqual(['Open day']);
    await press(fixture, 'Delete permanently', host());
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

  it('takes files of other kinds, picked or dropped, says what it was told, and why one is refused', async () => {
    await open();
    const field = host().querySelector('input[type=file]') as HTMLInputElement;
    await offer(fixture, field, 'poster.SVG', '<svg/>');
    await until(() => went.calls.count() === 1);
    expect([api.taken, toasts.at(-1)?.message]).toEqual([['poster.SVG'], 'The face “X” is not here.']);
    const dropped = (...names: string[]): DragEvent => {
      const files = new DataTransfer();
      for (const name of names) files.items.add(new File(['x'], name));
      return new DragEvent('drop', { dataTransfer: files, bubbles: true, cancelable: true });
    };
    const shelf = host().querySelector('main')!;
    const event = dropped('a.md', 'b.csv');
    shelf.dispatchEvent(event);
    await until(() => api.taken.length === 3);
    expect(event.defaultPrevented).toBeTrue();
    // Of several files none is opened.
    expect(went.calls.count()).toBe(1);
    shelf.dispatchEvent(dropped('bad.txt'));
    await until(() => toasts.at(-1)?.message === 'The file is empty.');
    expect(went.calls.count()).toBe(1);
  });

  it('puts a font into the type case, a picture under a job of its own size, and says what it does not take', async () => {
    await open();
    const drop = (name: string): void => {
      const files = new DataTransfer();
      files.items.add(new File(['x'], name));
      host()
        .querySelector('main')!
        .dispatchEvent(new DragEvent('drop', { dataTransfer: files, bubbles: true, cancelable: true }));
    };
    drop('Tide.TTF');
    await until(() => toasts.at(-1)?.message === 'Tide Bold is in your type case.');
    expect([api.fonts, went.calls.count()]).toEqual([['Tide.TTF'], 0]);
    drop('Harbour view.png');
    await until(() => went.calls.count() === 1);
    const [job] = api.created;
    const [sheet] = job!.sheets;
    expect([job!.title, sheet!.widthPt, sheet!.heightPt, sheet!.unit]).toEqual(['Harbour view', 300, 150, 'px']);
    expect(sheet!.background).toEqual(jasmine.objectContaining({ kind: 'picture', pictureId: 'pic' }));
    drop('film.mp4');
    await until(() => toasts.at(-1)?.message.includes('“film.mp4” is an unsupported file type') ?? false);
    expect((named('New job', host()) as HTMLButtonElement).disabled).toBeFalse();
  });

  it('takes what is pasted while nothing is typed into', async () => {
    await open();
    const paste = (on: Element, type: string, text: string): ClipboardEvent => {
      const clipboardData = new DataTransfer();
      clipboardData.setData(type, text);
      const event = new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true });
      on.dispatchEvent(event);
      return event;
    };
    expect(paste(document.querySelector('input[type=search]')!, 'text/plain', 'words').defaultPrevented).toBeFalse();
    expect(paste(document.body, 'text/plain', 'Low water').defaultPrevented).toBeTrue();
    await until(() => api.taken.length === 1);
    paste(document.body, 'text/html', '<p>Low <b>water</b></p>');
    await until(() => api.taken.length === 2);
    paste(document.body, 'text/plain', ' <svg xmlns="x"></svg>');
    await until(() => api.taken.length === 3);
    expect(api.taken).toEqual(['Pasted.txt', 'Pasted.html', 'Pasted.svg']);
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
    expect([...host().querySelectorAll('.waits')].map((mark) => mark.textContent)).toEqual(['edits not saved yet']);
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
