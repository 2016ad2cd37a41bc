import { Injectable } from '@angular/core';
import type { Job } from '@jentrix/core/job';
import type { PullReason } from '@jentrix/core/pulls';
import { BehaviorSubject, type Observable, Subject, distinctUntilChanged, map } from 'rxjs';
import { type History, amend, endGesture, rebase, record, redo, startHistory, undo } from './history';

/** The job that is worked on, and the way back. */
@Injectable()
export class JobHistory {
  private readonly subject = new BehaviorSubject<History<Job> | undefined>(undefined);
  private readonly opened = new Subject<Job>();

  readonly history$ = this.subject.asObservable();
  readonly job$: Observable<Job | undefined> = this.subject.pipe(
    map((history) => history?.present),
    distinctUntilChanged(),
  );
  /** Another job was opened: what belongs to the one before is let go. */
  readonly opened$ = this.opened.asObservable();
  private readonly weighty = new Subject<{ job: Job; reason: PullReason }>();
  /** The job as it is before an edit that changes much at once. */
  readonly weighty$ = this.weighty.asObservable();

  get job(): Job | undefined {
    return this.subject.value?.present;
  }

  /** Starts work on a job, with an empty history. */
  open(job: Job): void {
    this.opened.next(job);
    this.subject.next(startHistory(job));
  }

  /**
   * Makes an edit.
   * @param edit pure; returning the same job means that nothing happened.
   * @param gesture edits that name the same gesture one after the other are one step of undo.
   */
  apply(edit: (job: Job) => Job, gesture?: string): void {
    this.change((history) => record(history, edit(history.present), gesture));
  }

  /** Says that the next edit changes much at once. @param reason what it is. */
  beforeMuch(reason: PullReason): void {
    const { job } = this;
    if (job) this.weighty.next({ job, reason });
  }

  /** Makes the last step lead elsewhere: another state in place of the one it led to. */
  amend(job: Job): void {
    this.change((history) => amend(history, job));
  }

  /** Ends the running gesture: the next edit can be undone by itself. */
  endGesture(): void {
    this.change(endGesture);
  }

  /** Takes up what others made: no step of its own. @param change puts it together with a state. */
  rebase(job: Job, change: (state: Job) => Job): void {
    this.change((history) => rebase(history, job, change));
  }

  undo(): void {
    this.change(undo);
  }

  redo(): void {
    this.change(redo);
  }

  private change(step: (history: History<Job>) => History<Job>): void {
    const history = this.subject.value;
    const next = history && step(history);
    if (next !== history) this.subject.next(next);
  }
}
