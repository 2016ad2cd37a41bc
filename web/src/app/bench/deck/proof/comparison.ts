import { Injectable, type OnDestroy, computed, effect, inject } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { type Job, type Sheet, resolveSheet } from '@jentrix/core/job';
import { combineLatest, debounceTime, map, merge, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { ToastService, messageOf } from '../../../ui/toasts';
import { untilReleased } from '../../../ui/until-released';
import { BenchStore } from '../../bench.store';
import { Instead, type ShownSheet } from '../../state/instead';
import { Pulls } from '../../state/pulls';
import { ProofState } from './proof.state';
import { tryOutSheet } from './try-out';
import { type WholeJob, WholeJobs } from './whole-job';

/** A job is checked so long after the last change of it, in milliseconds. */
const PAUSE_MS = 300;

/** The comparison of the Proof pass: there while its deck is. */
@Injectable()
export class Comparison implements OnDestroy {
  private readonly state = inject(ProofState);
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly instead = inject(Instead);
  private readonly pulls = inject(Pulls);
  private readonly toasts = inject(ToastService);
  private readonly whole = inject(WholeJobs);

  private readonly view = this.store.current.view;
  private readonly job = this.store.current.job;
  private readonly fetched = { from: this.jobOf(this.state.fromId), to: this.jobOf(this.state.toId) };
  /** The earlier state, and the later one. */
  readonly from = computed(() => (this.state.fromId() === undefined ? undefined : this.fetched.from()));
  readonly to = computed(() => (this.state.toId() === undefined ? this.job() : this.fetched.to()));

  /** The sheet on the table as the pulls have it. */
  private readonly shown = { from: this.sheetOf(this.from), to: this.sheetOf(computed(() => (this.state.toId() === undefined ? undefined : this.to()))) };

  /** The findings left in the whole job, and the measures of both states. */
  readonly open = this.checked(this.job);
  readonly measures = { from: this.checked(this.from), to: this.checked(this.to) };

  constructor() {
    effect(() => {
      const [from, to, side] = [this.shown.from(), this.shown.to(), this.state.side()];
      const comparing = this.state.tab() === 'compare';
      this.instead.standIn.set(comparing ? to : undefined);
      this.instead.second.set(comparing && from && side !== 'place' ? { shown: from, side } : undefined);
    });
  }

  ngOnDestroy(): void {
    this.instead.standIn.set(undefined);
    this.instead.second.set(undefined);
  }

  /** Shows the pull in the place of the job until the key is released. */
  hold(): void {
    const from = this.shown.from();
    if (!from) return;
    this.instead.show(from);
    untilReleased(() => this.instead.end(from));
  }

  private jobOf(id: () => string | undefined) {
    return toSignal(
      toObservable(computed(id)).pipe(
        switchMap(async (chosen): Promise<Job | undefined> => {
          if (chosen === undefined) return undefined;
          try {
            return await this.pulls.job(chosen);
          } catch (error) {
            this.toasts.fail(messageOf(error, 'The pull can’t be loaded right now.'));
            return undefined;
          }
        }),
      ),
    );
  }

  /** The sheet that is on the table, as a job has it, set ahead of being shown. */
  private sheetOf(job: () => Job | undefined) {
    // Where the caret is makes no difference.
    const wanted = computed(
      () => {
        const of = job();
        return of && { job: of, sheetId: this.view().sheetId };
      },
      { equal: (a, b) => a?.job === b?.job && a?.sheetId === b?.sheetId },
    );
    return toSignal(
      merge(toObservable(wanted), this.engine.faces$.pipe(map(() => wanted()))).pipe(
        switchMap(async (one): Promise<ShownSheet | undefined> => {
          const index = this.store.job?.sheets.findIndex(({ id }) => id === one?.sheetId) ?? -1;
          const raw: Sheet | undefined = one && (one.job.sheets.find(({ id }) => id === one.sheetId) ?? one.job.sheets[index]);
          if (!one || !raw) return undefined;
          return tryOutSheet(this.engine, resolveSheet(one.job, raw));
        }),
      ),
    );
  }

  private checked(job: () => Job | undefined) {
    return toSignal(
      combineLatest([toObservable(computed(job)), this.engine.faces$]).pipe(
        debounceTime(PAUSE_MS),
        switchMap(async ([one]): Promise<WholeJob | undefined> => (one ? this.whole.check(one).catch(() => undefined) : undefined)),
      ),
    );
  }
}
