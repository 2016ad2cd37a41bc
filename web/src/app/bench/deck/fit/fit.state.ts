import { Injectable, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { acceptFinding } from '@jentrix/core/findings';
import { type Block, type Fit, type Job, resolveBlock, resolveSheet, withBlockSettings, withoutFit } from '@jentrix/core/job';
import { combineLatest, debounceTime, distinctUntilChanged, map, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import type { ShortLastLineOfBlock } from '../../../engine/protocol';
import { BenchStore } from '../../bench.store';

/** The state of the Fit pass: its fit, and its short last lines. */
@Injectable()
export class FitState {
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);

  /** All short last lines of the job while the pass is up, sheet by sheet, each with what would take it up. */
  private readonly found = toSignal(
    combineLatest([this.store.job$, this.store.view$]).pipe(
      map(([job, { pass }]) => (pass === 'fit' ? job : undefined)),
      distinctUntilChanged(),
      debounceTime(80),
      switchMap(async (job): Promise<readonly ShortLastLineOfBlock[]> => (job ? this.engine.shortLastLines(blocksOf(job)).catch(() => []) : [])),
    ),
    { initialValue: [] },
  );
  private readonly view = this.store.current.view;

  /** Those of the current block, and those on other sheets. */
  readonly shortLastLines = computed(() => this.found().filter(({ blockId }) => blockId === this.view().blockId));
  readonly elsewhere = computed(() => {
    const own = new Set(this.store.current.sheet()?.blocks.map(({ id }) => id));
    return this.found().filter(({ blockId }) => !own.has(blockId));
  });

  /** True where a fit that would bring inks of two lines together leads them apart in the same step. */
  readonly leads = signal(true);

  private fits = 0;

  /** States what the block's lines are fitted to, and leads them apart where that brings them together: one step. */
  async fit(fit: Fit, gesture?: string): Promise<void> {
    const { block } = this.store;
    if (!block || block.locked) return;
    const step = gesture ?? `fit-${++this.fits}`;
    this.store.apply((job) => withBlockSettings(job, block.id, { fit }), step);
    const { job, sheet, block: fitted } = this.store;
    // What follows a hand can't wait.
    if (gesture !== undefined || !this.leads() || !job || !sheet || !fitted) return;
    const proposal = await this.engine.ledApart(resolveBlock(job, sheet.id, fitted)).catch(() => undefined);
    // What has changed meanwhile is told by what is found in it.
    if (proposal && this.store.block === fitted) this.store.apply((now) => acceptFinding(now, { blockId: block.id, proposal }), step);
  }

  /** Takes the fit off: what it has come to stays, in plain values. */
  async letGo(): Promise<void> {
    const { block } = this.store;
    if (!block?.fit || block.locked) return;
    const plain = await this.engine.letGo(block.id);
    // The block may have changed meanwhile.
    if (plain && this.store.block === block) this.store.apply((job) => withoutFit(job, block.id, plain));
  }

  /** Takes the cheapest fix of the block's first short last line that has one. */
  async takeUp(): Promise<void> {
    const { block, job, sheet } = this.store;
    if (!block || !job || !sheet || block.locked) return;
    const found = await this.engine.shortLastLines([resolveBlock(job, sheet.id, block)]);
    const [fix] = found.flatMap(({ fixes }) => fixes.slice(0, 1));
    if (fix && this.store.block === block) this.store.apply((now) => acceptFinding(now, { blockId: block.id, proposal: fix.proposal }));
  }
}

/** The blocks of a job as they are set. */
const blocksOf = (job: Job): Block[] => job.sheets.flatMap((sheet) => resolveSheet(job, sheet).blocks);
