import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import type { Pull } from '@jentrix/core/api';
import type { Job } from '@jentrix/core/job';
import type { PullReason } from '@jentrix/core/pulls';
import { BehaviorSubject, firstValueFrom } from 'rxjs';
import { ApiService } from '../../api/api.service';
import { ToastService } from '../../ui/toasts';
import { SaveService } from '../save.service';
import { JobHistory } from './job-history';

/** Faces that are tried one after the other are one change, in milliseconds. */
const TRYING_MS = 120_000;
/** So many of the latest are measured as they are listed. */
const MEASURED = 24;
/** So many states stay here once they were fetched. */
const MOST_FETCHED = 12;

/** Kept states of the job: by hand at any moment, and by themselves before edits that change much at once. */
@Injectable()
export class Pulls {
  private readonly api = inject(ApiService);
  private readonly save = inject(SaveService);
  private readonly toasts = inject(ToastService);
  private readonly history = inject(JobHistory);
  private readonly subject = new BehaviorSubject<readonly Pull[] | undefined>(undefined);
  private readonly fetched = new Map<string, Promise<Job>>();
  private measuring = false;
  private lastFace = Number.NEGATIVE_INFINITY;

  /** The latest first; undefined until they were asked for. */
  readonly pulls$ = this.subject.asObservable();
  readonly pulls = toSignal(this.pulls$, { requireSync: true });

  constructor() {
    this.history.opened$.pipe(takeUntilDestroyed()).subscribe(() => {
      this.subject.next(undefined);
      this.fetched.clear();
    });
    this.history.weighty$.pipe(takeUntilDestroyed()).subscribe(({ job, reason }) => void this.keepBefore(job, reason));
  }

  get value(): readonly Pull[] | undefined {
    return this.subject.value;
  }

  /** Lists them anew. @returns whether the server told. */
  load(): Promise<boolean> {
    return this.toasts.trying(async () => {
      this.subject.next(await firstValueFrom(this.api.listPulls(this.save.jobId)));
      void this.measure();
    }, 'The pulls can’t be loaded right now.');
  }

  /** Keeps the job as it is now. @returns the pull, where it was kept. */
  async keep(name = ''): Promise<Pull | undefined> {
    const { job } = this.history;
    if (!job) return undefined;
    let kept: Pull | undefined;
    await this.toasts.trying(async () => {
      kept = await this.send(job, 'hand', name);
      this.toasts.say('Kept a pull of the current state.');
    }, 'The pull could not be kept.');
    return kept;
  }

  /** Automatic pulls stand in nobody's way: where it can't be kept, undo still leads back. */
  private async keepBefore(job: Job, reason: PullReason): Promise<void> {
    const now = performance.now();
    if (reason === 'face') {
      const trying = now - this.lastFace < TRYING_MS;
      this.lastFace = now;
      if (trying) return;
    }
    await this.send(job, reason).catch(() => undefined);
  }

  private async send(job: Job, reason: PullReason, name = ''): Promise<Pull> {
    const pull = await firstValueFrom(this.api.keepPull(this.save.jobId, job, reason, name));
    const others = this.value?.filter(({ id }) => id !== pull.id);
    if (others) {
      this.subject.next([pull, ...others]);
      void this.measure();
    }
    return pull;
  }

  /** Keeps both versions of a job that was changed here and elsewhere. @returns whether they were kept */
  async keepBoth(mine: Job, theirs: Job): Promise<boolean> {
    try {
      await this.send(theirs, 'conflict', 'Theirs, before choosing');
      await this.send(mine, 'conflict', 'Mine, before choosing');
      return true;
    } catch {
      return false;
    }
  }

  rename(id: string, name: string): Promise<boolean> {
    return this.toasts.trying(async () => this.replace(await firstValueFrom(this.api.renamePull(this.save.jobId, id, name.trim()))));
  }

  /** @param called what people know it by. */
  delete({ id, name, reason }: Pull, called: string): Promise<boolean> {
    return this.toasts.trying(async () => {
      const job = await this.job(id).catch(() => undefined);
      await firstValueFrom(this.api.deletePull(this.save.jobId, id));
      this.subject.next(this.value?.filter((pull) => pull.id !== id));
      const back = job && { label: 'Undo', run: () => void this.toasts.trying(() => this.send(job, reason, name)) };
      this.toasts.say(`Deleted “${called}”.`, back);
    });
  }

  /** Puts a pull on the shelf as a job of its own. @returns that job's id. */
  async openAsJob(id: string): Promise<string | undefined> {
    let made: string | undefined;
    await this.toasts.trying(async () => (made = (await firstValueFrom(this.api.openPull(this.save.jobId, id))).id));
    return made;
  }

  /** The job as it was kept. @throws ApiError */
  job(id: string): Promise<Job> {
    let job = this.fetched.get(id);
    if (!job) {
      job = firstValueFrom(this.api.readPull(this.save.jobId, id)).then((record) => record.job);
      job.catch(() => this.fetched.delete(id));
      this.fetched.set(id, job);
      const [oldest] = this.fetched.keys();
      if (this.fetched.size > MOST_FETCHED && oldest !== undefined) this.fetched.delete(oldest);
    }
    return job;
  }

  private replace(pull: Pull): void {
    this.subject.next(this.value?.map((one) => (one.id === pull.id ? pull : one)));
  }

  /** Asks for the measures of those that have none, one after the other. */
  private async measure(): Promise<void> {
    if (this.measuring) return;
    this.measuring = true;
    try {
      for (;;) {
        const next = this.value?.slice(0, MEASURED).find(({ findings }) => findings === null);
        if (!next) return;
        this.replace(await firstValueFrom(this.api.measurePull(this.save.jobId, next.id)));
      }
    } catch {
      // Without measures they are as good to compare with.
    } finally {
      this.measuring = false;
    }
  }
}
