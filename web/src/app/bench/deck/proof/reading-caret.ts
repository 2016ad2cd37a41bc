import { Injectable, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { distinctUntilChanged, filter, map, merge, skip } from 'rxjs';
import { gapsOf } from '@jentrix/core/setting';
import { BenchStore } from '../../bench.store';
import { JobHistory } from '../../state/job-history';

/** Reading aloud: 150 words a minute, six letters with the space behind a word, half an em a letter on the mean; in milliseconds an em. */
const MS_PER_EM = 60_000 / 150 / 6 / 0.5;
/** Nothing is passed over faster, nor waited at longer. */
const LEAST_MS = 16;
const MOST_MS = 1200;

/** Reads the current block aloud without a voice: the gap caret moves at reading pace, slower where there is more space to cross. */
@Injectable()
export class ReadingCaret {
  private readonly store = inject(BenchStore);
  private timer: ReturnType<typeof setTimeout> | undefined;
  readonly on = signal(false);

  constructor() {
    const elsewhere$ = this.store.view$.pipe(
      map(({ pass, sheetId }) => `${pass} ${sheetId}`),
      distinctUntilChanged(),
      skip(1),
    );
    const edited$ = this.store.job$.pipe(skip(1));
    const away$ = this.store.view$.pipe(filter(({ gap, editing }) => !gap || editing));
    merge(elsewhere$, edited$, away$, inject(JobHistory).opened$)
      .pipe(takeUntilDestroyed())
      .subscribe({ next: () => this.stop(), complete: () => this.stop() });
  }

  toggle(): void {
    if (this.on()) this.stop();
    else this.start();
  }

  stop(): void {
    clearTimeout(this.timer);
    this.on.set(false);
  }

  /** From the caret on; from the beginning of the block where there is none. */
  private start(): void {
    if (!this.store.view.gap) this.store.walk(1);
    if (!this.store.view.gap) return;
    this.on.set(true);
    this.wait();
  }

  private wait(): void {
    this.timer = setTimeout(() => {
      const { gap } = this.store.view;
      this.store.walk(1);
      const now = this.store.view.gap;
      // At the end of the block the reading is over.
      if (!now || (now.blockId === gap?.blockId && now.at === gap.at) || now.blockId !== gap?.blockId) this.stop();
      else if (this.on()) this.wait();
    }, this.stepMs());
  }

  /** How long the eye takes from the gap of the caret to the next, by the distance between them. */
  private stepMs(): number {
    const { gap } = this.store.view;
    const set = this.store.sheetSetting?.blocks.get(gap?.blockId ?? '');
    const line = set?.setting.lines.find(({ start, visibleEnd }) => gap && gap.at > start && gap.at < visibleEnd);
    if (!line) return LEAST_MS;
    const gaps = gapsOf(line);
    const index = gaps.findIndex(({ at }) => at === gap?.at);
    const [here, next] = [gaps[index]?.xPt, gaps[index + 1]?.xPt ?? line.leftPt + line.widthPt];
    return Math.max(LEAST_MS, Math.min(MOST_MS, (Math.abs(next - (here ?? next)) / line.sizePt) * MS_PER_EM));
  }
}
