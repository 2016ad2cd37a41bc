import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, Injector, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { JobMeasure, JobPage, JobQuery, JobSummary } from '@jentrix/core/api';
import type { Job } from '@jentrix/core/job';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { NgbPaginationModule } from '@ng-bootstrap/ng-bootstrap/pagination';
import { NgIcon, provideIcons } from '@ng-icons/core';
import { bootstrapFolder2Open, bootstrapPlus, bootstrapSearch, bootstrapThreeDots } from '@ng-icons/bootstrap-icons';
import {
  BehaviorSubject,
  EMPTY,
  type Observable,
  catchError,
  concatMap,
  debounceTime,
  distinctUntilChanged,
  filter,
  firstValueFrom,
  from,
  map,
  of,
  pairwise,
  scan,
  startWith,
  switchMap,
} from 'rxjs';
import { ApiService } from '../api/api.service';
import { type Unsent, UnsentService } from '../offline/unsent.service';
import { OfflineService } from '../offline/offline.service';
import { TAKEN, pastedFile } from '../intake/kinds';
import { ask } from '../ui/ask-dialog';
import { fileSize, pickedFile } from '../ui/files';
import { UserPreferences } from '../settings/user-preferences';
import { ToastService, messageOf } from '../ui/toasts';
import { MenuFocus } from '../ui/menu-focus.directive';
import type { NewJob } from './new-job-dialog';
import { Places } from '../ui/places';

const PAGE_SIZE = 12;

/** The note on a card about edits that are only in this browser. */
const UNSENT_WORDS: Readonly<Record<Unsent['kind'], string>> = {
  waiting: 'edits not saved yet',
  conflict: 'two versions: open to choose',
  gone: 'edits of a deleted job',
  refused: 'edits the server refused',
};

type Listing = { kind: 'loading' } | { kind: 'error'; message: string } | { kind: 'page'; page: JobPage };

const revisionOf = ({ id, revision }: JobSummary): string => `${id} ${revision}`;

/** All jobs, by thumbnail. */
@Component({
  selector: 'jx-shelf',
  imports: [DatePipe, FormsModule, MenuFocus, NgbDropdownModule, NgbPaginationModule, NgIcon, Places, RouterLink],
  providers: [provideIcons({ bootstrapFolder2Open, bootstrapPlus, bootstrapSearch, bootstrapThreeDots })],
  templateUrl: './shelf.page.html',
  styleUrl: './shelf.page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:paste)': 'pasted($event)' },
})
export class ShelfPage {
  private readonly api = inject(ApiService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  private readonly modal = inject(NgbModal);
  private readonly preferences = inject(UserPreferences);
  private readonly destroyed = inject(DestroyRef);
  private readonly injector = inject(Injector);
  private readonly offline = inject(OfflineService);

  protected readonly taken = TAKEN;
  /** True while a file is over the shelf. */
  protected readonly dropping = signal(false);

  protected readonly sorts: readonly { value: string; label: string }[] = [
    { value: 'updatedAt desc', label: 'Last changed' },
    { value: 'createdAt desc', label: 'Newest' },
    { value: 'title asc', label: 'Title' },
    { value: 'kind asc', label: 'Kind' },
  ];
  protected readonly pageSize = PAGE_SIZE;
  protected readonly query = new BehaviorSubject<Required<Pick<JobQuery, 'page' | 'sort' | 'order' | 'q' | 'trash'>>>({
    page: 1,
    sort: 'updatedAt',
    order: 'desc',
    q: '',
    trash: 'false',
  });
  protected readonly asked = toSignal(this.query, { requireSync: true });
  protected readonly busy = signal(false);
  private readonly typed = new BehaviorSubject('');
  private readonly reload = new BehaviorSubject(0);

  protected readonly listing = toSignal(
    this.reload.pipe(
      switchMap(() => this.query),
      switchMap((query) =>
        this.api.listJobs({ ...query, pageSize: PAGE_SIZE }).pipe(
          map((page): Listing => ({ kind: 'page', page })),
          catchError((error: unknown) => of<Listing>({ kind: 'error', message: messageOf(error, 'The jobs can’t be loaded.') })),
        ),
      ),
      startWith<Listing>({ kind: 'loading' }),
    ),
    { requireSync: true },
  );

  /** The findings left in the jobs that are shown, by job and revision; asked for one after the other once they are shown. */
  protected readonly measures = toSignal(
    toObservable(this.listing).pipe(
      switchMap((listing) => {
        const items = listing.kind === 'page' ? listing.page.items.filter(({ deletedAt }) => deletedAt === null) : [];
        return from(items).pipe(
          concatMap((job) =>
            this.api.measureJob(job.id).pipe(
              map((measure) => [revisionOf(job), measure] as const),
              catchError(() => EMPTY),
            ),
          ),
        );
      }),
      scan((known, [of, measure]) => new Map(known).set(of, measure), new Map<string, JobMeasure>()),
    ),
    { initialValue: new Map<string, JobMeasure>() },
  );
  protected readonly revisionOf = revisionOf;
  protected readonly away = this.offline.isAway;

  private readonly unsentService = inject(UnsentService);
  /** Edits that wait in this browser, and those of them that are not on the page of the shelf that is shown. */
  protected readonly unsent = this.unsentService.unsent;
  protected readonly unsentOf = computed(() => new Map(this.unsent().map(({ jobId, kind }) => [jobId, UNSENT_WORDS[kind]])));

  constructor() {
    this.offline.back$.pipe(takeUntilDestroyed(this.destroyed)).subscribe(() => this.again());
    toObservable(this.listing)
      .pipe(takeUntilDestroyed(this.destroyed))
      .subscribe((listing) => {
        if (listing.kind === 'page') void this.offline.storeJobs(listing.page.items.filter(({ deletedAt }) => deletedAt === null));
      });
    // What was sent meanwhile shows in the list.
    this.unsentService.unsent$
      .pipe(
        map((unsent) => unsent.length),
        pairwise(),
        filter(([before, now]) => now < before),
        takeUntilDestroyed(this.destroyed),
      )
      .subscribe(() => this.again());
    this.typed
      .pipe(debounceTime(200), distinctUntilChanged(), takeUntilDestroyed(this.destroyed))
      .subscribe((q) => q !== this.query.value.q && this.ask({ q, page: 1 }));
  }

  protected ask(change: Partial<BehaviorSubjectValue<ShelfPage['query']>>): void {
    this.query.next({ ...this.query.value, ...change });
  }

  protected search(text: string): void {
    this.typed.next(text.trim());
  }

  protected sort(value: string): void {
    const [sort, order] = value.split(' ') as ['updatedAt', 'desc'];
    this.ask({ sort, order, page: 1 });
  }

  protected again(): void {
    this.reload.next(this.reload.value + 1);
  }

  protected thumbnail({ id, revision }: JobSummary): string {
    return `/api/jobs/${id}/thumbnail.png?revision=${revision}`;
  }

  protected async create(): Promise<void> {
    const { NewJobDialog } = await import('./new-job-dialog');
    const dialog = this.modal.open(NewJobDialog, { ariaLabelledBy: 'new-job-title', size: 'lg' });
    const asked = await (dialog.result as Promise<NewJob>).catch(() => undefined);
    if (!asked) return;
    this.busy.set(true);
    await this.toasts.trying(async () => {
      const { begin } = await import('./begin');
      await this.shelve(await begin(asked, this.preferences.current.autoLeadingFactor, this.injector), { state: { fresh: true } });
    }, 'The job could not be created.');
    this.busy.set(false);
  }

  protected openPicked(input: HTMLInputElement): Promise<void> {
    const file = pickedFile(input);
    return file ? this.openFile(file) : Promise.resolve();
  }

  /** A file is over the shelf. */
  protected hover(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.dropping.set(true);
  }

  protected async drop(event: DragEvent): Promise<void> {
    this.dropping.set(false);
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length === 0) return;
    event.preventDefault();
    for (const file of files) await this.openFile(file, files.length === 1);
    if (files.length > 1) this.again();
  }

  /** A paste outside of fields becomes a job, or goes where it belongs. */
  protected pasted(event: ClipboardEvent): void {
    const { clipboardData: data, target } = event;
    if (!data || (target instanceof Element && target.matches('input, textarea'))) return;
    const file = pastedFile({ files: data.files, getData: (type) => data.getData(type) });
    if (!file) return;
    event.preventDefault();
    void this.openFile(file);
  }

  /** @param goes whether the bench opens with it */
  private async openFile(file: File, goes = true): Promise<void> {
    this.busy.set(true);
    await this.toasts.trying(async () => {
      const { putOnShelf } = await import('../intake/put-on-shelf');
      await putOnShelf(file, {
        injector: this.injector,
        shelve: (job, { fresh, kept }) => this.shelve(job, { goes, kept, ...(fresh ? { state: { fresh } } : {}) }),
        go: async (id) => goes && this.router.navigate(['/jobs', id]),
      });
    }, `“${file.name}” was not opened.`);
    this.busy.set(false);
  }

  protected duplicate(job: JobSummary): void {
    void this.run(this.api.duplicateJob(job.id), `Made a copy of “${job.title}”.`);
  }

  protected trash(job: JobSummary): void {
    void this.run(this.api.trashJob(job.id), `Moved “${job.title}” to the trash.`, () => this.restore(job));
  }

  protected restore(job: JobSummary): void {
    void this.run(this.api.restoreJob(job.id), `“${job.title}” is back on the shelf.`);
  }

  protected async purge(job: JobSummary): Promise<void> {
    const what = { title: `Delete “${job.title}” permanently?`, lines: ['This can’t be undone.'], yes: 'Delete' };
    if ((await ask(this.modal, what)) !== undefined) await this.run(this.api.purgeJob(job.id), `Deleted “${job.title}”.`);
  }

  /** Copies all data, and offers the copy as a file. */
  protected backUp(): Promise<boolean> {
    return this.toasts.trying(async () => {
      const { BackupsApi } = await import('../api/backups.api');
      const api = this.injector.get(BackupsApi);
      const { name, bytes } = await firstValueFrom(api.make());
      this.toasts.say(`Backed up all jobs, faces and pictures: ${fileSize(bytes)}.`, { label: 'Download', run: () => location.assign(api.address(name)) });
    }, 'The backup failed.');
  }

  protected async restoreBackup(): Promise<void> {
    await this.toasts.trying(async () => {
      const { RestoreDialog } = await import('./restore-dialog');
      const done = await this.modal.open(RestoreDialog, { ariaLabelledBy: 'restore-title', size: 'lg', scrollable: true }).result.then(
        () => true,
        () => false,
      );
      if (done) this.again();
    }, 'The backups can’t be shown.');
  }

  protected keepEdits({ jobId, title }: Unsent): void {
    void this.toasts.trying(async () => {
      await this.unsentService.keepAsJob(jobId);
      this.toasts.say(`Saved “${title}” to the shelf.`);
      this.again();
    });
  }

  protected async dropEdits({ jobId, title }: Unsent): Promise<void> {
    const what = { title: `Discard the edits of “${title}”?`, lines: ['They are only in this browser. This can’t be undone.'], yes: 'Discard' };
    if ((await ask(this.modal, what)) !== undefined) await this.unsentService.letGo(jobId);
  }

  /** @param state what the bench is told: a fresh job is begun with its words. */
  private async shelve(job: Job, { state, kept, goes = true }: { state?: { fresh: boolean }; kept?: unknown; goes?: boolean } = {}): Promise<void> {
    this.busy.set(true);
    await this.toasts.trying(async () => {
      const { id } = await firstValueFrom(this.api.createJob(job, kept));
      if (goes) await this.router.navigate(['/jobs', id], state ? { state } : {});
    }, 'The job was not saved.');
    this.busy.set(false);
  }

  private run(request: Observable<unknown>, done: string, back?: () => void): Promise<boolean> {
    return this.toasts.trying(async () => {
      await firstValueFrom(request);
      this.toasts.say(done, back && { label: 'Undo', run: back });
      this.again();
    });
  }
}

type BehaviorSubjectValue<T> = T extends BehaviorSubject<infer V> ? V : never;
