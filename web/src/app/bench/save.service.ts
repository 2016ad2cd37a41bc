import { Injectable, inject } from '@angular/core';
import type { JobRecord } from '@jentrix/core/api';
import type { Job } from '@jentrix/core/job';
import { BehaviorSubject, firstValueFrom } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { DraftStore } from './drafts';

/** Where the job on the bench stands with the server. */
export type SaveState =
  | { kind: 'saved' }
  | { kind: 'saving' }
  | { kind: 'offline' }
  /** The server refused: the edits are only in this browser. */
  | { kind: 'refused'; message: string }
  /** The server holds another version. */
  | { kind: 'conflict'; theirs: JobRecord }
  /** The job is no longer on the shelf. */
  | { kind: 'gone' };

/** How long after an edit it is sent, in milliseconds. */
const SETTLE_MS = 400;
const RETRY_MS = [1000, 2000, 4000, 8000];

/**
 * Sends the job whenever it changes: kept in the browser at once, sent a moment later, one write at a time, tried again
 * while the server is away. A write that the server refuses as stale waits for the designer's choice.
 */
@Injectable()
export class SaveService {
  private readonly api = inject(ApiService);
  private readonly drafts = inject(DraftStore);

  private readonly stateSubject = new BehaviorSubject<SaveState>({ kind: 'saved' });
  private id = '';
  private revision = 0;
  /** What the server has, and what it should have. */
  private sent: Job | undefined;
  private wanted: Job | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<void> | undefined;
  private failures = 0;
  private keeping = false;
  private readonly onOnline = (): void => {
    if (this.state.kind === 'offline') this.schedule(0);
  };

  readonly state$ = this.stateSubject.asObservable();

  /** The job that is open. */
  get jobId(): string {
    return this.id;
  }

  get state(): SaveState {
    return this.stateSubject.value;
  }

  /**
   * Opens a job, with edits that an earlier visit could not send.
   * @returns the job to work on; the state is `conflict` where those edits were made on an older revision.
   */
  async open(id: string): Promise<Job> {
    const record = await firstValueFrom(this.api.readJob(id));
    const draft = await this.drafts.adopt(id).catch(() => undefined);
    this.id = id;
    this.revision = record.revision;
    this.sent = record.job;
    this.wanted = record.job;
    this.stateSubject.next({ kind: 'saved' });
    addEventListener('online', this.onOnline);
    if (!draft) return record.job;
    if (JSON.stringify(draft.job) === JSON.stringify(record.job)) {
      await this.drafts.drop(id);
      return record.job;
    }
    this.wanted = draft.job;
    if (draft.basedOn === record.revision) this.schedule(0);
    else this.stateSubject.next({ kind: 'conflict', theirs: record });
    return draft.job;
  }

  /** Takes the newest state of the job. */
  update(job: Job): void {
    if (job === this.wanted) return;
    this.wanted = job;
    void this.keep();
    if (this.state.kind === 'saved' || this.state.kind === 'refused') this.stateSubject.next({ kind: 'saving' });
    if (this.state.kind === 'saving') this.schedule(SETTLE_MS);
  }

  /** Sends what is waiting now. @returns true when the server has everything. */
  async flush(): Promise<boolean> {
    if (this.wanted !== this.sent && (this.state.kind === 'saving' || this.state.kind === 'offline')) {
      clearTimeout(this.timer);
      await this.send();
      if (this.wanted !== this.sent && this.state.kind === 'saving') await this.send();
    }
    return this.state.kind === 'saved';
  }

  /** In a conflict or after the job was trashed: this version becomes the newest. */
  async keepMine(): Promise<void> {
    const { state } = this;
    if (state.kind === 'conflict') this.revision = state.theirs.revision;
    else if (state.kind === 'gone') await firstValueFrom(this.api.restoreJob(this.id));
    else return;
    this.stateSubject.next({ kind: 'saving' });
    await this.send();
  }

  /** In a conflict: the other version is taken up. @returns it, to be put on the bench as an edit that can be undone. */
  takeTheirs(): Job | undefined {
    const { state } = this;
    if (state.kind !== 'conflict') return undefined;
    this.revision = state.theirs.revision;
    this.sent = state.theirs.job;
    this.wanted = state.theirs.job;
    this.stateSubject.next({ kind: 'saved' });
    void this.drafts.drop(this.id);
    return state.theirs.job;
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
    this.id = '';
  }

  /** Keeps the newest state in the browser; while one is being written, only the last of those that follow is written next. */
  private async keep(): Promise<void> {
    if (this.keeping) return;
    this.keeping = true;
    try {
      let kept: Job | undefined;
      while (this.id && this.wanted && this.wanted !== kept && this.wanted !== this.sent) {
        kept = this.wanted;
        await this.drafts.keep(this.id, this.revision, kept);
      }
    } catch {
      // Private windows may have no storage: saving to the server goes on without it.
    } finally {
      this.keeping = false;
    }
  }

  private schedule(afterMs: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), afterMs);
  }

  private send(): Promise<void> {
    this.sending ??= this.sendOnce().finally(() => (this.sending = undefined));
    return this.sending;
  }

  private async sendOnce(): Promise<void> {
    const { id, wanted } = this;
    if (!id || !wanted) return;
    try {
      const record = await firstValueFrom(this.api.replaceJob(id, this.revision, wanted));
      if (this.id !== id) return;
      this.failures = 0;
      this.revision = record.revision;
      this.sent = wanted;
      if (this.wanted === wanted) {
        await this.drafts.drop(id).catch(() => undefined);
        if (this.wanted === wanted) this.stateSubject.next({ kind: 'saved' });
        else this.schedule(SETTLE_MS);
      } else {
        this.stateSubject.next({ kind: 'saving' });
        void this.keep();
        this.schedule(SETTLE_MS);
      }
    } catch (error) {
      if (this.id === id) this.failed(error);
    }
  }

  private failed(error: unknown): void {
    if (!(error instanceof ApiError)) throw error;
    if (error.kind === 'stale' && error.current) this.stateSubject.next({ kind: 'conflict', theirs: error.current });
    else if (error.kind === 'not-found') this.stateSubject.next({ kind: 'gone' });
    else if (error.kind === 'offline') {
      this.stateSubject.next({ kind: 'offline' });
      this.schedule(RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)] ?? 8000);
    } else this.stateSubject.next({ kind: 'refused', message: error.message });
  }
}
