import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import type { Job } from '@jentrix/core/job';
import type { FirstCut } from '@jentrix/core/refine';
import { BehaviorSubject, distinctUntilChanged, map, merge, skip } from 'rxjs';
import { EngineService } from '../../engine/engine.service';
import { ToastService } from '../../ui/toasts';
import { JobHistory } from '../state/job-history';
import { PlaceService } from '../state/place';

/** A first cut that is looked at. */
interface Cutting {
  /** The job as it was before. */
  base: Job;
  /** The first cut; absent while it is worked out for the first time. */
  cut: FirstCut | undefined;
  /** Items that are reverted, by id; undefined at first: what was reverted before. */
  without: readonly string[] | undefined;
}

/** The first cut: the whole round as one step of undo, with a list of what it did until something else is done. */
@Injectable()
export class FirstCutState {
  private readonly history = inject(JobHistory);
  private readonly place = inject(PlaceService);
  private readonly engine = inject(EngineService);
  private readonly toasts = inject(ToastService);
  private readonly subject = new BehaviorSubject<Cutting | undefined>(undefined);
  /** The job as the cut has left it. */
  private made: Job | undefined;

  readonly cut$ = this.subject.pipe(map((cutting) => cutting?.cut));
  readonly cut = toSignal(this.cut$, { requireSync: true });
  readonly open$ = this.subject.pipe(
    map((cutting) => cutting !== undefined),
    distinctUntilChanged(),
  );
  readonly isOpen = toSignal(this.open$, { requireSync: true });

  constructor() {
    // Another edit, undo or another pass: the list has been read.
    const otherPass$ = this.place.place$.pipe(
      map(({ pass }) => pass),
      distinctUntilChanged(),
      skip(1),
    );
    merge(this.place.again$, otherPass$, this.history.opened$)
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.close());
    // Until the round is done the job is as it was, from then on as the cut has left it.
    this.history.job$.pipe(takeUntilDestroyed()).subscribe((job) => job !== (this.made ?? this.subject.value?.base) && this.close());
  }

  toggle(): void {
    if (this.subject.value) this.close();
    else void this.start();
  }

  /** Does the round, as one step. */
  async start(): Promise<void> {
    const { job } = this.history;
    if (job && !this.subject.value) await this.run({ base: job, cut: undefined, without: undefined });
  }

  /** Keeps items, or gives them back. */
  async give(ids: readonly string[], kept: boolean): Promise<void> {
    const { value } = this.subject;
    if (!value?.cut) return;
    const { steps } = value.cut;
    const now = value.without ?? steps.flatMap(({ items }) => items.filter((item) => !item.kept).map(({ id }) => id));
    const others = now.filter((id) => !ids.includes(id));
    await this.run({ ...value, without: kept ? others : [...others, ...ids] });
  }

  close(): void {
    if (!this.subject.value) return;
    this.made = undefined;
    this.subject.next(undefined);
  }

  private async run(next: Cutting): Promise<void> {
    this.subject.next(next);
    const done = await this.toasts.trying(async () => {
      const cut = await this.engine.firstCut(next.base, next.without);
      // Something else was done, or asked for, in the meantime.
      if (this.subject.value !== next) return;
      // What was reverted is remembered in the job.
      const changed = next.without !== undefined || cut.steps.some(({ items }) => items.some(({ kept }) => kept));
      const job = changed ? cut.job : next.base;
      const began = this.made !== undefined;
      this.made = job;
      this.subject.next({ ...next, cut });
      if (began) this.history.amend(job);
      else {
        this.history.beforeMuch('first-cut');
        this.history.apply(() => job);
      }
    }, 'The first cut failed: the text can’t be set right now.');
    if (!done && this.subject.value === next) this.close();
  }
}
