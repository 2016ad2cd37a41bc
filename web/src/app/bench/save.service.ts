import { ApplicationRef, Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { JobRecord, Other } from '@jentrix/core/api';
import { type Job, sameValue } from '@jentrix/core/job';
import type { Clash, Merged } from '@jentrix/core/merge';
import { BehaviorSubject, Subject, type Subscription, firstValueFrom } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { DraftStore } from '../kept/drafts';
import { KeptJobs } from '../kept/kept-jobs';

/** Where the job on the bench stands with the server. */
export type SaveState =
  | { kind: 'saved' }
  | { kind: 'saving' }
  /** The server is away, or keeps nothing just now, and says why. */
  | { kind: 'offline'; message?: string; code?: string | undefined }
  /** The server refused: the edits are only in this browser. */
  | { kind: 'refused'; message: string }
  /** The server holds another version. @param clashes what both changed; empty where nobody knows what the edits here began with */
  | { kind: 'conflict'; theirs: JobRecord; clashes: readonly Clash[] }
  /** The job is no longer on the shelf. */
  | { kind: 'gone' };

/** The changes of others. */
export interface Came {
  /** The job as it is with that. */
  job: Job;
  /** Puts it together with any earlier or later state of the job. */
  merge: (mine: Job) => Merged;
}

/** How long after an edit it is sent, in milliseconds. */
const SETTLE_MS = 400;
const RETRY_MS = [1000, 2000, 4000, 8000];
/** How often a server that fails is asked again before that is told. */
const MOST_FAILURES = 3;
/** How many unanswered writes are remembered. */
const MOST_ATTEMPTS = 5;

/**
 * Sends the job whenever it changes: kept in the browser at once, sent a moment later, one write at a time, tried again
 * while the server is away. What others write meanwhile is put together with it; where both changed the same the designer chooses.
 */
@Injectable()
export class SaveService {
  private readonly api = inject(ApiService);
  private readonly drafts = inject(DraftStore);
  /** Of the application: what is asked for as the bench is left outlives it. */
  private readonly root = inject(ApplicationRef).injector;
  private readonly kept = inject(KeptJobs);

  private readonly stateSubject = new BehaviorSubject<SaveState>({ kind: 'saved' });
  private id = '';
  private revision = 0;
  /** The job on the server, and the job that should be there. */
  private sent: Job | undefined;
  private wanted: Job | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<void> | undefined;
  private failures = 0;
  /** Writes that were sent since the last answer: the server may have taken one of them although its answer was lost. */
  private attempts: readonly Job[] = [];
  private readonly onOnline = (): void => {
    if (this.state.kind === 'offline') this.schedule(0);
  };

  readonly state$ = this.stateSubject.asObservable();
  readonly saved = toSignal(this.state$, { requireSync: true });
  private readonly cameSubject = new Subject<Came>();
  /** The changes of others merged with what is here: to be taken up by the bench in the same turn. */
  readonly came$ = this.cameSubject.asObservable();
  /** The newest revision that was told of. */
  private heard = 0;
  private listening: Subscription | undefined;

  private readonly othersSubject = new BehaviorSubject<readonly Other[]>([]);
  /** Who else has the job open. */
  readonly others$ = this.othersSubject.asObservable();
  readonly others = toSignal(this.others$, { requireSync: true });
  /** The id of this window among those. */
  readonly window = crypto.randomUUID();

  /** The job that is open. */
  get jobId(): string {
    return this.id;
  }

  /** The job as it is here, sent or not. */
  get mine(): Job | undefined {
    return this.wanted;
  }

  get state(): SaveState {
    return this.stateSubject.value;
  }

  /**
   * Opens a job, with edits that an earlier visit could not send: they are put together with what others have written since.
   * @returns the job to work on; the state is `conflict` where both changed the same.
   */
  async open(id: string): Promise<Job> {
    this.drafts.claim(id);
    const record = await this.read(id).catch((error: unknown) => {
      this.drafts.claim(undefined);
      throw error;
    });
    const draft = await this.drafts.adopt(id).catch(() => undefined);
    this.id = id;
    this.revision = record.revision;
    this.sent = record.job;
    this.wanted = record.job;
    this.attempts = [];
    this.stateSubject.next({ kind: 'saved' });
    addEventListener('online', this.onOnline);
    this.heard = record.revision;
    this.listening = this.api.eventsOf(id, this.window).subscribe((event) => {
      if ('others' in event) {
        this.othersSubject.next(event.others);
        return;
      }
      this.heard = Math.max(this.heard, event.revision);
      void this.catchUp();
    });
    if (!draft) return record.job;
    if (sameValue(draft.job, record.job)) {
      await this.drafts.drop(id);
      return record.job;
    }
    this.wanted = draft.job;
    if (draft.basedOn >= record.revision) {
      // Without the server, an older revision may be all that was kept: the edits know of the newer one.
      this.revision = draft.basedOn;
      this.sent = draft.base ?? record.job;
      this.attempts = draft.attempts;
      this.schedule(0);
    } else if (draft.attempts.some((job) => sameValue(job, record.job))) this.schedule(0);
    else if (!draft.base) this.clash(record);
    else {
      this.sent = draft.base;
      this.attempts = draft.attempts;
      await this.takeUp(record, false);
    }
    return this.wanted;
  }

  /** The job as the server has it; where that is away, as it was kept or seen last. @throws ApiError */
  private async read(id: string): Promise<JobRecord> {
    try {
      const record = await firstValueFrom(this.api.readJob(id, true));
      void this.kept.keep(record);
      return record;
    } catch (error) {
      if (!(error instanceof ApiError && error.kind === 'offline')) throw error;
      const [kept, seen] = await Promise.all([this.kept.job(id), firstValueFrom(this.api.readJob(id)).catch(() => undefined)]);
      const newest = kept && seen ? (kept.revision >= seen.revision ? kept : seen) : (kept ?? seen);
      if (!newest) throw error;
      return newest;
    }
  }

  /** Takes the newest state of the job. */
  update(job: Job): void {
    if (job === this.wanted) return;
    this.wanted = job;
    this.keep();
    if (this.state.kind === 'saved' || this.state.kind === 'refused') this.stateSubject.next({ kind: 'saving' });
    if (this.state.kind === 'saving') this.schedule(SETTLE_MS);
  }

  /** Sends what is waiting now. @returns true when the server has everything. */
  async flush(): Promise<boolean> {
    if (this.state.kind === 'saving' || this.state.kind === 'offline') {
      clearTimeout(this.timer);
      await this.send();
      if (this.wanted !== this.sent && this.state.kind === 'saving') await this.send();
    }
    return this.state.kind === 'saved';
  }

  /** In a conflict or after the job was trashed: this version becomes the newest, with what else others changed. */
  async keepMine(): Promise<void> {
    const { state } = this;
    if (state.kind === 'conflict') await this.takeIn(state.theirs, 'mine');
    else if (state.kind === 'gone') await firstValueFrom(this.api.restoreJob(this.id));
    else return;
    this.stateSubject.next({ kind: 'saving' });
    await this.send();
  }

  /**
   * In a conflict: the other version is taken up where both changed the same; what else was changed here stays.
   * @returns the edit that does so, to be made on the bench as a step that can be undone
   */
  async takeTheirs(): Promise<((mine: Job) => Job) | undefined> {
    const { state, sent, attempts } = this;
    if (state.kind !== 'conflict' || !sent) return undefined;
    const theirs = state.theirs.job;
    const { mergerOf, startedFrom } = await import('@jentrix/core/merge');
    const merger = mergerOf(startedFrom(sent, attempts, theirs), theirs, { prefer: 'theirs' });
    // Every earlier state has what else they changed.
    await this.takeIn(state.theirs, 'mine');
    return (mine) => {
      // Of what the edits here began with nothing is known: theirs as a whole.
      if (sent === theirs) return theirs;
      const { job } = merger(mine);
      return sameValue(job, theirs) ? theirs : job;
    };
  }

  /** In a conflict: saves this version as a job of its own. @returns its identifier. */
  async keepBoth(title: string): Promise<string | undefined> {
    if (!this.wanted) return undefined;
    const record = await firstValueFrom(this.api.createJob({ ...this.wanted, title }));
    await this.drafts.drop(this.id);
    this.close();
    return record.id;
  }

  /** Leaves the job; what could not be sent stays in the browser. */
  close(): void {
    clearTimeout(this.timer);
    removeEventListener('online', this.onOnline);
    this.listening?.unsubscribe();
    this.othersSubject.next([]);
    this.id = '';
    this.drafts.claim(undefined);
    this.lookForUnsent().catch(() => undefined);
  }

  /** Sends what other windows and visits have left, of any job. */
  private async lookForUnsent(): Promise<void> {
    const { UnsentService } = await import('../offline/unsent.service');
    await this.root.get(UnsentService).look();
  }

  /** Keeps the newest state in the browser; the write begins at once. */
  private keep(): void {
    if (!this.id || !this.wanted || this.wanted === this.sent) return;
    // Private windows may have no storage: saving to the server goes on without it.
    const { id, revision, sent, wanted, attempts } = this;
    this.drafts.keep({ jobId: id, basedOn: revision, base: sent ?? null, job: wanted, attempts }).catch(() => undefined);
  }

  private schedule(afterMs: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), afterMs);
  }

  private send(): Promise<void> {
    this.sending ??= this.sendOnce().finally(() => {
      this.sending = undefined;
      void this.catchUp();
    });
    return this.sending;
  }

  private async sendOnce(): Promise<void> {
    const { id, wanted } = this;
    if (!id || !wanted) return;
    if (wanted === this.sent) {
      await this.drafts.drop(id).catch(() => undefined);
      if (this.id === id && this.wanted === wanted) this.stateSubject.next({ kind: 'saved' });
      return;
    }
    if (!this.attempts.includes(wanted)) {
      this.attempts = [...this.attempts, wanted].slice(-MOST_ATTEMPTS);
      this.keep();
    }
    try {
      const saved = await firstValueFrom(this.api.replaceJob(id, this.revision, wanted));
      if (this.id !== id) return;
      this.failures = 0;
      this.attempts = [];
      this.revision = saved.revision;
      this.sent = wanted;
      void this.kept.keep({ ...saved, job: wanted });
      if (this.wanted === wanted) {
        await this.drafts.drop(id).catch(() => undefined);
        if (this.wanted === wanted) this.stateSubject.next({ kind: 'saved' });
        else this.schedule(SETTLE_MS);
      } else {
        this.stateSubject.next({ kind: 'saving' });
        this.keep();
        this.schedule(SETTLE_MS);
      }
    } catch (error) {
      if (this.id === id) await this.failed(error);
    }
  }

  /** Takes up what others have written since, where nothing is on its way. */
  private async catchUp(): Promise<void> {
    const { id } = this;
    const settled = (): boolean => this.id === id && id !== '' && !this.sending && (this.state.kind === 'saved' || this.state.kind === 'saving');
    if (this.heard <= this.revision || !settled()) return;
    const record = await firstValueFrom(this.api.readJob(id)).catch(() => undefined);
    if (record && settled() && record.revision > this.revision) await this.takeUp(record);
  }

  private clash(theirs: JobRecord, clashes: readonly Clash[] = []): void {
    clearTimeout(this.timer);
    this.stateSubject.next({ kind: 'conflict', theirs, clashes });
  }

  /** Puts what others wrote together with what is here; where both changed the same, somebody has to choose. */
  private async takeUp(theirs: JobRecord, tell = true): Promise<void> {
    const { id } = this;
    const clashes = await this.takeIn(theirs, 'ask', tell);
    if (clashes && this.id === id) this.clash(theirs, clashes);
  }

  /**
   * Puts what others wrote together with what is here.
   * @param where both changed the same: mine goes on, or nothing is done. @param tell the bench, which has the job open
   * @returns what both changed, where that is in the way
   */
  private async takeIn(theirs: JobRecord, where: 'mine' | 'ask', tell = true): Promise<readonly Clash[] | undefined> {
    const { id, sent, attempts } = this;
    // Where that can't be loaded, somebody has to choose.
    const loaded = await import('@jentrix/core/merge').catch(() => undefined);
    const { wanted } = this;
    if (this.id !== id || this.sent !== sent || !sent || !wanted) return undefined;
    if (!loaded) return [];
    const { mergerOf, startedFrom } = loaded;
    // A write of this window that was never answered may be what they went on from.
    const base = startedFrom(sent, attempts, theirs.job);
    const { job, clashes } = mergerOf(base, theirs.job)(wanted);
    if (clashes.length > 0 && where === 'ask') return clashes;
    // Earlier states have every change of theirs, so that undo takes none of it back.
    const merge = mergerOf(base, theirs.job, { withinBlocks: true, prefer: 'theirs' });
    const own = wanted !== sent;
    this.revision = theirs.revision;
    this.attempts = [];
    this.sent = own ? theirs.job : job;
    void this.kept.keep(theirs);
    this.wanted = job;
    if (tell) this.cameSubject.next({ job, merge });
    if (own) {
      this.keep();
      this.stateSubject.next({ kind: 'saving' });
      this.schedule(0);
    }
    return undefined;
  }

  private async failed(error: unknown): Promise<void> {
    if (!(error instanceof ApiError)) throw error;
    const { current } = error;
    if (error.kind === 'stale' && current) {
      const own = this.attempts.find((job) => sameValue(job, current.job));
      if (!own) await this.takeUp(current);
      else {
        // An earlier write of this window, whose answer was lost: what came after it goes on from there.
        this.attempts = [];
        this.revision = current.revision;
        this.sent = own;
        this.schedule(0);
      }
    } else if (error.kind === 'not-found') this.stateSubject.next({ kind: 'gone' });
    else if (error.kind === 'offline') {
      this.stateSubject.next(error.code === undefined ? { kind: 'offline' } : { kind: 'offline', message: error.message, code: error.code });
      this.again();
    } else if (error.kind === 'failed' && this.failures < MOST_FAILURES) this.again();
    else this.stateSubject.next({ kind: 'refused', message: error.message });
  }

  private again(): void {
    this.schedule(RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)] ?? 8000);
  }
}
