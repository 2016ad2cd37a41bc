import { Injectable, computed } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Job } from '@jentrix/core/job';
import type { PullReason } from '@jentrix/core/pulls';
import { BehaviorSubject, type Observable, Subject, distinctUntilChanged, map } from 'rxjs';
import { type History, amend, endGesture, hold, rebase, record, recordHeld, redo, endGestureIn, remembered, startHistory, undo } from './history';

/** A drag or another gesture under way: one step of undo, whose edits all start from the job it began with. */
export interface Gesture {
  /** The job the edits start from: as it was at the beginning, with what others have changed since. Undefined once the gesture has ended. */
  readonly start: Job | undefined;
  /** Replaces what the gesture has done so far. Does nothing once it has ended, by `end`, by undo, or because another job was opened. */
  apply(edit: (start: Job) => Job): void;
  end(): void;
}

/** A step that was taken back or made again. */
export interface Retraced {
  readonly way: 'undo' | 'redo';
  readonly before: Job;
  readonly after: Job;
}

/** The steps to undo and redo, around the current job. */
export type Steps = Pick<History<Job>, 'past' | 'present' | 'future'>;

let gestures = 0;

/** The job that is worked on, and the way back. */
@Injectable()
export class JobHistory {
  private readonly subject = new BehaviorSubject<History<Job> | undefined>(undefined);
  private readonly opened = new Subject<Job>();
  /** The job as it was opened. */
  private first: Job | undefined;
  /** Whether others have changed it since. */
  private rebased = false;

  readonly history$ = this.subject.asObservable();
  readonly history = toSignal(this.history$, { requireSync: true });
  readonly job$: Observable<Job | undefined> = this.subject.pipe(
    map((history) => history?.present),
    distinctUntilChanged(),
  );
  readonly current = computed(() => this.history()?.present);
  /** Another job was opened: what belongs to the one before is dropped. */
  readonly opened$ = this.opened.asObservable();
  private readonly weighty = new Subject<{ job: Job; reason: PullReason }>();
  /** The job as it is before an edit that changes much at once. */
  readonly weighty$ = this.weighty.asObservable();
  private readonly retraced = new Subject<Retraced>();
  /** Told before the job is as it was before, or after, a step. */
  readonly retraced$ = this.retraced.asObservable();

  get job(): Job | undefined {
    return this.subject.value?.present;
  }

  get steps(): Steps | undefined {
    return this.subject.value;
  }

  /** Starts work on a job, with an empty history. */
  open(job: Job): void {
    this.first = job;
    this.rebased = false;
    this.opened.next(job);
    this.subject.next(startHistory(job));
  }

  /** True while the job is open that was opened like this. */
  rests(opened: Job): boolean {
    return this.first === opened;
  }

  /** Puts steps of an earlier visit before those of this one. @param opened the job that they lead to */
  remember(opened: Job, { past, future }: Omit<Steps, 'present'>): void {
    if (!this.rests(opened) || this.rebased) return;
    this.change((history) => remembered(history, past, history.past.length + history.future.length === 0 ? future : []));
  }

  /**
   * Makes an edit.
   * @param edit pure; returning the same job means that nothing happened.
   * @param gesture edits that name the same gesture one after the other are one step of undo.
   */
  apply(edit: (job: Job) => Job, gesture?: string): void {
    this.change((history) => record(history, edit, gesture));
  }

  /** Begins a gesture, such as a drag. */
  begin(): Gesture {
    const id = `held-${++gestures}`;
    this.change((history) => hold(history, id));
    const started = (): Job | undefined => (this.subject.value?.held?.id === id ? this.subject.value.held.start : undefined);
    return {
      get start() {
        return started();
      },
      apply: (edit) => this.change((history) => recordHeld(history, id, edit)),
      end: () => this.change((history) => endGestureIn(history, id)),
    };
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
    this.rebased = true;
    this.change((history) => rebase(history, job, change));
  }

  undo(): void {
    this.retrace('undo', undo);
  }

  redo(): void {
    this.retrace('redo', redo);
  }

  private retrace(way: Retraced['way'], step: (history: History<Job>) => History<Job>): void {
    const before = this.subject.value;
    const after = before && step(before);
    if (!before || !after || after === before) return;
    this.retraced.next({ way, before: before.present, after: after.present });
    this.subject.next(after);
  }

  private change(step: (history: History<Job>) => History<Job>): void {
    const history = this.subject.value;
    const next = history && step(history);
    if (next !== history) this.subject.next(next);
  }
}
