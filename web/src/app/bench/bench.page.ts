import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, viewChild } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { letterName } from '@jentrix/core/job';
import { distinctUntilChanged, first, map, skip, switchMap } from 'rxjs';
import { Hint } from '../settings/hint';
import { ChoiceName } from '../ui/choice-name.pipe';
import { NotLoaded } from '../ui/not-loaded';
import { showSigned } from '../ui/numbers';
import { ToastService } from '../ui/toasts';
import { BenchInput } from './bench-input';
import { BENCH_STATE, BenchStore } from './bench.store';
import { CopyColumn } from './copy-column/copy-column';
import { preloadDialogs } from './dialogs/dialogs';
import { FirstCutPanel } from './first-cut/first-cut';
import { FirstCutState } from './first-cut/first-cut.state';
import { Masthead } from './masthead/masthead';
import { Opening } from './opening';
import { preloadParts } from './parts';
import { PASSES } from './pass';
import { PassRail } from './pass-rail';
import { providePasses } from './passes';
import { SaveService } from './save.service';
import { PlaceService } from './state/place';
import { Pulls } from './state/pulls';
import { Said } from './state/said';
import { Table } from './table/table';

/** The bench: one job, looked at and measured. */
@Component({
  selector: 'jx-bench',
  imports: [ChoiceName, CopyColumn, FirstCutPanel, Hint, Masthead, NgComponentOutlet, NotLoaded, PassRail, RouterLink, Table],
  providers: [...BENCH_STATE, ...providePasses(), BenchStore, Said, SaveService, Opening, BenchInput],
  templateUrl: './bench.page.html',
  styleUrl: './bench.page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(document:paste)': 'input.pasted($event)',
    '(dragover)': 'input.over($event)',
    '(drop)': 'input.drop($event)',
    '(document:keydown)': 'input.key($event)',
    '(document:click)': 'input.clicked($event)',
    '[attr.data-part]': 'part()',
  },
})
export class BenchPage {
  /** From the address. */
  readonly id = input.required<string>();

  protected readonly store = inject(BenchStore);
  private readonly opening = inject(Opening);
  protected readonly input = inject(BenchInput);
  private readonly toasts = inject(ToastService);
  private readonly table = viewChild(Table);
  private readonly copyColumn = viewChild(CopyColumn);
  private readonly passes = inject(PASSES);

  protected readonly job = this.store.current.job;
  protected readonly engineError = this.store.current.engineError;
  protected readonly view = this.store.current.view;
  protected readonly pass = computed(() => this.passes.find(({ id }) => id === this.view().pass) ?? this.passes[0]);
  /** The instrument of the pass, once it is loaded. */
  protected readonly deck = toSignal(
    toObservable(this.pass).pipe(
      switchMap(async (pass) => pass?.deck().catch(() => this.toasts.fail(`The ${pass.name} deck can’t be loaded: the server can’t be reached.`))),
    ),
  );
  /** True on a sheet without any block. */
  protected readonly nothing = computed(() => this.store.current.sheet()?.blocks.length === 0);
  /** In a window too small for all three: what is shown. */
  protected readonly parts = ['words', 'sheet', 'deck'] as const;
  protected readonly part = signal<(typeof this.parts)[number]>('sheet');
  protected readonly loadError = this.opening.error;
  /** Told to screen readers when the caret moves or a gap changes. */
  protected readonly spoken = computed(() => {
    const setting = this.setting();
    const { gap } = this.view();
    const ledger = setting?.gapLine?.ledgers.find(({ at }) => at === gap?.at);
    if (!gap || !ledger || setting?.gapLine?.block.id !== gap.blockId) return '';
    const { words } = setting.gapLine.block;
    const [left, right] = [ledger.left, ledger.right].map(({ start, end }) => letterName(words.slice(start, end)));
    return `Gap ${left} ${right}, manual ${showSigned(ledger.handMilliem)}, total ${showSigned(ledger.totalMilliem)}`;
  });
  private readonly setting = this.store.current.setting;
  protected readonly cut = inject(FirstCutState);
  protected readonly cutting = this.cut.isOpen;
  private readonly place = inject(PlaceService);
  /** Injected so that they run while the page is there: the first tells screen readers of changes, the second keeps automatic pulls. */
  protected readonly said = inject(Said);
  protected readonly pulls = inject(Pulls);

  constructor() {
    this.input.attach({ table: this.table, copyColumn: this.copyColumn });
    effect(() => {
      const id = this.id();
      untracked(() => void this.opening.load(id));
    });
    this.store.editRequests$.pipe(takeUntilDestroyed()).subscribe(() => this.part.set('words'));
    this.store.view$
      .pipe(
        map(({ pass }) => pass),
        distinctUntilChanged(),
        skip(1),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.part.set('deck'));
    // Once the letters are there the other instruments follow, and are there then even when the server is not.
    this.store.setting$
      .pipe(
        first((setting) => setting !== undefined),
        takeUntilDestroyed(),
      )
      .subscribe(() => requestIdleCallback(() => void Promise.allSettled([...this.passes.map(({ deck }) => deck()), preloadDialogs(), preloadParts()])));
  }

  /** Asks for the job again. */
  protected load(): void {
    void this.opening.load(this.id());
  }

  protected toWords(): void {
    const { block } = this.store;
    if (block) this.store.editWords(block.id, { start: block.words.length, end: block.words.length });
  }

  /** Begins with words on an empty sheet. */
  protected write(): void {
    this.copyColumn()?.add();
  }

  protected toSheet(): void {
    this.place.focusBench();
  }
}
