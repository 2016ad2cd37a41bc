import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BehaviorSubject, firstValueFrom } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { sameValue } from '@jentrix/core/job';
import { type Draft, DraftStore } from '../kept/drafts';

/** Edits that are only in this browser. */
export interface Unsent {
  jobId: string;
  title: string;
  /** Why: the server is away or fails; it holds another version; the job is no longer there; it refuses them. */
  kind: 'waiting' | 'conflict' | 'gone' | 'refused';
}

/** How often the server is asked again while edits wait, in milliseconds. */
const AGAIN_MS = 4000;

/** Sends edits that an earlier visit could not send, whichever job is open. What needs a decision waits for its job to be opened. */
@Injectable({ providedIn: 'root' })
export class UnsentService {
  private readonly api = inject(ApiService);
  private readonly drafts = inject(DraftStore);
  private readonly subject = new BehaviorSubject<readonly Unsent[]>([]);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private looking: Promise<void> | undefined;

  /** The unsent edits. */
  readonly unsent$ = this.subject.asObservable();
  readonly unsent = toSignal(this.unsent$, { requireSync: true });

  constructor() {
    addEventListener('online', () => void this.look());
  }

  /** Looks for drafts and sends them; goes on looking while some can’t be sent. */
  look(): Promise<void> {
    this.looking ??= this.lookOnce().finally(() => (this.looking = undefined));
    return this.looking;
  }

  /** Puts the edits of a job that is gone on the shelf as a job of their own. @throws ApiError */
  async keepAsJob(jobId: string): Promise<void> {
    const draft = (await this.drafts.unsent()).find((one) => one.jobId === jobId);
    if (draft) await firstValueFrom(this.api.createJob(draft.job));
    await this.letGo(jobId);
  }

  /** Gives edits up. */
  async letGo(jobId: string): Promise<void> {
    await this.drafts.drop(jobId);
    await this.look();
  }

  private async lookOnce(): Promise<void> {
    clearTimeout(this.timer);
    const unsent: Unsent[] = [];
    for (const draft of await this.drafts.unsent().catch(() => [])) {
      const kind = await this.send(draft);
      if (kind) unsent.push({ jobId: draft.jobId, title: draft.job.title, kind });
    }
    this.subject.next(unsent);
    if (unsent.some(({ kind }) => kind === 'waiting')) this.timer = setTimeout(() => void this.look(), AGAIN_MS);
  }

  /** Sends a draft. @returns why it still waits, or undefined where it was sent */
  private async send(draft: Draft): Promise<Unsent['kind'] | undefined> {
    const { jobId, base, attempts } = draft;
    let { basedOn, job } = draft;
    for (;;) {
      try {
        await firstValueFrom(this.api.replaceJob(jobId, basedOn, job));
        await this.drafts.drop(jobId);
        return undefined;
      } catch (error) {
        if (!(error instanceof ApiError)) throw error;
        const { kind, current } = error;
        if (kind === 'stale' && current && sameValue(job, current.job)) {
          await this.drafts.drop(jobId);
          return undefined;
        }
        if (kind === 'stale' && current && current.revision !== basedOn && attempts.some((attempt) => sameValue(attempt, current.job))) {
          basedOn = current.revision;
          continue;
        }
        // Somebody else wrote meanwhile: where that was elsewhere in the job, both are in it.
        if (kind === 'stale' && current && current.revision !== basedOn && base) {
          const { mergerOf, startedFrom } = await import('@jentrix/core/merge');
          const merged = mergerOf(startedFrom(base, attempts, current.job), current.job)(draft.job);
          if (merged.clashes.length > 0) return 'conflict';
          basedOn = current.revision;
          job = merged.job;
          continue;
        }
        return kind === 'stale' ? 'conflict' : kind === 'not-found' ? 'gone' : kind === 'refused' ? 'refused' : 'waiting';
      }
    }
  }
}
