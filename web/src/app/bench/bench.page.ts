import { NgComponentOutlet } from '@angular/common';
import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  type OnDestroy,
  type OnInit,
  Injector,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { type Subscription, distinctUntilChanged, filter, first, fromEvent, map, skip, switchMap } from 'rxjs';
import { ApiError } from '../api/api.service';
import { type Job, STARTER_WORDS, letterName } from '@jentrix/core/job';
import { PASSAGE_TYPE, pastePassage } from '@jentrix/core/wording';
import { EngineService } from '../engine/engine.service';
import { UserPreferences } from '../settings/user-preferences';
import { showSigned } from '../ui/numbers';
import { ToastService, messageOf } from '../ui/toasts';
import { BENCH_STATE, BenchStore } from './bench.store';
import { CopyColumn, readPassage } from './copy-column/copy-column';
import { FirstCutPanel } from './first-cut/first-cut';
import { FirstCutState } from './first-cut/first-cut.state';
import { AWAY, openDialog, preloadDialogs } from './dialogs/dialogs';
import { type KeyLayer, layerOf } from './key-layer';
import { heardKey, allKeys } from './keys';
import { WordsState } from './deck/words/words.state';
import { Hint } from '../settings/hint';
import { NotLoaded } from '../ui/not-loaded';
import { Masthead } from './masthead/masthead';
import { PassRail } from './pass-rail';
import { PASSES } from './pass';
import { providePasses } from './passes';
import { preloadParts } from './parts';
import { SaveService } from './save.service';
import { PlaceService } from './state/place';
import { Pulls } from './state/pulls';
import { Said } from './state/said';
import { Table } from './table/table';
import { ChoiceName } from '../ui/choice-name.pipe';

/** The bench: one job, looked at and measured. */
@Component({
  selector: 'jx-bench',
  imports: [ChoiceName, CopyColumn, FirstCutPanel, Hint, Masthead, NgComponentOutlet, NotLoaded, PassRail, RouterLink, Table],
  providers: [...BENCH_STATE, ...providePasses(), BenchStore, Said, SaveService],
  templateUrl: './bench.page.html',
  styleUrl: './bench.page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(document:paste)': 'pasted($event)',
    '(dragover)': 'over($event)',
    '(drop)': 'drop($event)',
    '(document:keydown)': 'key($event)',
    '(document:click)': 'clicked($event)',
    '[attr.data-part]': 'part()',
  },
})
export class BenchPage implements OnInit, OnDestroy {
  /** From the address. */
  readonly id = input.required<string>();

  protected readonly store = inject(BenchStore);
  private readonly save = inject(SaveService);
  private readonly modal = inject(NgbModal);
  private readonly preferences = inject(UserPreferences);
  private readonly toasts = inject(ToastService);
  private readonly title = inject(Title);
  private readonly engine = inject(EngineService);
  private readonly injector = inject(Injector);
  private readonly app = inject(ApplicationRef);
  private readonly table = viewChild(Table);
  private readonly copyColumn = viewChild(CopyColumn);
  private readonly passes = inject(PASSES);
  private readonly keys = allKeys(this.passes);

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
  protected readonly nothing = computed(() => this.job()?.sheets.find(({ id }) => id === this.view().sheetId)?.blocks.length === 0);
  /** In a window too small for all three: what is shown. */
  protected readonly parts = ['words', 'sheet', 'deck'] as const;
  protected readonly part = signal<(typeof this.parts)[number]>('sheet');
  protected readonly loadError = signal<{ message: string; gone: boolean } | undefined>(undefined);
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
  private readonly words = inject(WordsState);
  /** Injected so that they run while the page is there: the first tells screen readers of changes, the second keeps automatic pulls. */
  protected readonly said = inject(Said);
  protected readonly pulls = inject(Pulls);
  /** The layer that a pressed key belongs to, decided before any handler changes the focus. */
  private layer: KeyLayer = 'bench';
  private readonly subscriptions: Subscription[] = [];
  private gestures = 0;
  private settling = false;

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => void this.load(id));
    });
  }

  ngOnInit(): void {
    this.subscriptions.push(
      this.store.editRequests$.subscribe(() => this.part.set('words')),
      this.store.view$
        .pipe(
          map(({ pass }) => pass),
          distinctUntilChanged(),
          skip(1),
        )
        .subscribe(() => this.part.set('deck')),
      fromEvent(document, 'keydown', { capture: true }).subscribe(({ target }) => (this.layer = layerOf(target, document))),
      this.store.job$.pipe(filter((job) => job !== undefined)).subscribe((job) => {
        this.save.update(job);
        this.title.setTitle(`${job.title} · Jentrix`);
      }),
      // Once the letters are there the other instruments follow, and are there then even when the server is not.
      this.store.setting$.pipe(first((setting) => setting !== undefined)).subscribe(() => {
        const preload = (): void => {
          void Promise.allSettled([...this.passes.map(({ deck }) => deck()), preloadDialogs(), preloadParts()]);
        };
        requestIdleCallback(preload);
      }),
      this.save.came$.subscribe(({ job, merge }) => this.store.rebase(job, (state) => merge(state).job)),
      this.save.state$.pipe(filter(({ kind }) => kind === 'conflict' || kind === 'gone')).subscribe(() => this.settleConflict()),
    );
  }

  ngOnDestroy(): void {
    for (const subscription of this.subscriptions) subscription.unsubscribe();
    void this.save.flush().finally(() => this.save.close());
  }

  protected async load(id = this.id()): Promise<void> {
    this.loadError.set(undefined);
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
      this.loadError.set({ message, gone: error instanceof ApiError && error.kind === 'not-found' });
    }
  }

  /** Steps of an earlier visit come once the letters are there, and others are told of this window. Without either it can be worked as well. */
  private async restore(id: string, job: Job): Promise<void> {
    await import('./kept-history').then(({ restoreSteps }) => restoreSteps(id, job, this.injector)).catch(() => undefined);
    await import('./say-here').then(({ sayHere }) => this.save.jobId === id && sayHere(id, this.injector)).catch(() => undefined);
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

  protected key(event: KeyboardEvent): void {
    const { layer } = this;
    if (!this.job() || event.defaultPrevented) return;
    if (event.key === 'Escape' && (layer === 'field' || layer === 'live field' || layer === 'control')) {
      this.place.focusBench();
      return;
    }
    const heard = heardKey(this.keys, event, layer, this.preferences.current, this.view().pass);
    if (!heard) return;
    event.preventDefault();
    if (!event.repeat) this.gestures++;
    const focused = document.activeElement;
    heard.binding.run(
      {
        store: this.store,
        preferences: this.preferences.current,
        gesture: `key-${event.code}-${this.gestures}`,
        get: (state) => this.injector.get(state),
        help: () =>
          void this.toasts.trying(
            () => openDialog(this.modal, 'keys', { ariaLabelledBy: 'keys-title', size: 'lg', scrollable: true, injector: this.injector }),
            AWAY,
          ),
        find: () => this.copyColumn()?.find(),
        zoom: (to) => this.table()?.zoomTo(to),
      },
      event,
      heard.which,
    );
    // What was asked for from a button is at the bench.
    if (heard.binding.reach === 'page' && layer === 'control' && document.activeElement === focused) this.place.focusBench();
    // Drawn in the key's own task: together with the browser's layout and paint it made one that was too long on a slow machine.
    this.app.tick();
  }

  /** Handles a paste outside of fields. */
  protected pasted(event: ClipboardEvent): void {
    const { clipboardData: data } = event;
    const layer = layerOf(document.activeElement, document);
    const column = this.copyColumn();
    if (!data || !column || event.defaultPrevented || (layer !== 'bench' && layer !== 'control')) return;
    event.preventDefault();
    const passage = readPassage(data.getData(PASSAGE_TYPE));
    if (passage) {
      column.add(passage.words, (job, id) => pastePassage(job, id, 0, passage.words.length, passage));
      return;
    }
    const what = { files: [...data.files], html: data.getData('text/html'), text: data.getData('text/plain') };
    void this.toasts.trying(async () => (await import('../intake/onto-bench')).paste(what, column.add.bind(column), this.store, this.injector), AWAY);
  }

  /** Files are over the bench. */
  protected over(event: DragEvent): void {
    if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
  }

  protected drop(event: DragEvent): void {
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length === 0 || event.defaultPrevented) return;
    event.preventDefault();
    const at = this.table()?.placeUnder(event);
    void this.toasts.trying(async () => (await import('../intake/onto-bench')).bringIn(files, at, this.store, this.injector), AWAY);
  }

  /** A button that was pressed by the pointer gives the keys back to the bench; by keyboard they stay where they are. */
  protected clicked({ detail, target }: MouseEvent): void {
    if (detail === 0) return;
    const giveBack = (): void => {
      const { activeElement: focused } = document;
      if (focused?.tagName !== 'A' && layerOf(focused, document) === 'control' && !(focused instanceof HTMLInputElement && focused.type === 'color'))
        this.place.focusBench();
    };
    // At once, so that the next key is the bench's; what opens a menu keeps them while that comes.
    if (target instanceof Element && target.closest('[aria-expanded]')) setTimeout(giveBack);
    else giveBack();
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
