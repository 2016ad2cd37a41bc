import { Injectable, Injector, type OnDestroy, afterNextRender, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { type Job, STARTER_WORDS } from '@jentrix/core/job';
import { filter, first } from 'rxjs';
import { ApiError } from '../api/api.service';
import { EngineService } from '../engine/engine.service';
import { ToastService, messageOf } from '../ui/toasts';
import { BenchStore } from './bench.store';
import { WordsState } from './deck/words/words.state';
import { AWAY } from './dialogs/dialogs';
import { SaveService } from './save.service';

/** The job of the bench on its way: opened, saved as it changes, put together with what others made, and closed. */
@Injectable()
export class Opening implements OnDestroy {
  private readonly store = inject(BenchStore);
  private readonly save = inject(SaveService);
  private readonly engine = inject(EngineService);
  private readonly toasts = inject(ToastService);
  private readonly title = inject(Title);
  private readonly words = inject(WordsState);
  private readonly injector = inject(Injector);
  /** Why the job can't be opened. */
  readonly error = signal<{ message: string; gone: boolean } | undefined>(undefined);
  private settling = false;

  constructor() {
    this.store.job$
      .pipe(
        filter((job) => job !== undefined),
        takeUntilDestroyed(),
      )
      .subscribe((job) => {
        this.save.update(job);
        this.title.setTitle(`${job.title} · Jentrix`);
      });
    this.save.came$.pipe(takeUntilDestroyed()).subscribe(({ job, merge }) => this.store.rebase(job, (state) => merge(state).job));
    this.save.state$
      .pipe(
        filter(({ kind }) => kind === 'conflict' || kind === 'gone'),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.settleConflict());
  }

  ngOnDestroy(): void {
    void this.save.flush().finally(() => this.save.close());
  }

  async load(id: string): Promise<void> {
    this.error.set(undefined);
    try {
      // The page is drawn while the engine starts; where that fails, setting tells.
      void this.engine.engine().catch(() => undefined);
      const job = await this.save.open(id);
      this.store.open(job);
      this.store.setting$
        .pipe(first((setting) => setting !== undefined))
        .subscribe(() => requestIdleCallback(() => void this.restore(id, job), { timeout: 3000 }));
      if ((history.state as { fresh?: boolean } | null)?.fresh) this.begin();
    } catch (error) {
      const message = messageOf(error, 'The job can’t be read.');
      this.error.set({ message, gone: error instanceof ApiError && error.kind === 'not-found' });
    }
  }

  /** Steps of an earlier visit come once the letters are there, and others are told of this window. Without either it can be worked as well. */
  private async restore(id: string, job: Job): Promise<void> {
    await import('./kept-history').then(({ restoreSteps }) => restoreSteps(id, job, this.injector)).catch(() => undefined);
    await import('./say-here').then(({ sayHere }) => this.save.jobId === id && sayHere(id, this.injector)).catch(() => undefined);
  }

  /** A fresh job begins with its words, and with what it is for beside them. */
  private begin(): void {
    history.replaceState({ ...(history.state as object), fresh: undefined }, '');
    this.words.show('sheet');
    const { block } = this.store;
    // The words are there once the bench is drawn.
    if (!block) return;
    // Words to be replaced are picked; behind one's own one goes on.
    const start = block.words === STARTER_WORDS ? 0 : block.words.length;
    afterNextRender(() => this.store.editWords(block.id, { start, end: block.words.length }), { injector: this.injector });
  }

  private settleConflict(): void {
    if (this.settling) return;
    this.settling = true;
    void import('./settle-conflict')
      .then(({ settleConflict }) => settleConflict(this.injector))
      .catch(() => this.toasts.fail(AWAY))
      .finally(() => (this.settling = false));
  }
}
