/** Every kind of gesture against a change that somebody else saves at any moment of it: nothing of theirs is lost, and undo takes back only one's own. */
import { Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type Job, findBlock, moveBlocks, newPath, restyle, sheetOf, withBlockSettings, withHand, withLanguage, withSheet } from '@jentrix/core/job';
import { editWords } from '@jentrix/core/wording';
import { ApiService } from '../api/api.service';
import { DraftStore } from '../kept/drafts';
import { KeptJobs } from '../kept/kept-jobs';
import { pageProviders, until } from '../ui/testing';
import { BenchStore } from './bench.store';
import { CopyColumn } from './copy-column/copy-column';
import { WordsDeck } from './deck/words/words-deck';
import { FakeDrafts, FakeKept, FakeServer } from './fake-server';
import { SaveService } from './save.service';
import { JobHistory } from './state/job-history';
import { LetterPicks } from './state/letter-picks';
import { FrameHandles } from './table/frame-handles';
import { LetterHandles } from './table/letter-handles';
import { LineHandles } from './table/line-handles';
import { PathHandles } from './table/path-handles';
import { SheetGuides } from './table/sheet-guides';
import { FakeEngine, FakePreferences, benchProviders, sample } from './testing';
import { UnsentService } from '../offline/unsent.service';

@Component({
  imports: [CopyColumn, FrameHandles, LetterHandles, LineHandles, PathHandles, SheetGuides, WordsDeck],
  template: `
    <svg width="600" height="800" style="position: absolute; left: 0; top: 0">
      @if (setting()?.blocks?.get('a')?.setting; as setting) {
        @if (store.current.block(); as block) {
          <g jxFrame [block]="block" [setting]="setting" [scale]="1" [main]="true"></g>
          <g jxLines [block]="block" [setting]="setting" [scale]="1"></g>
          <g jxPath [block]="block" [setting]="setting" [scale]="1"></g>
          <g jxLetters [block]="block" [setting]="setting" [scale]="1"></g>
        }
      }
      @if (store.current.sheet(); as sheet) {
        <g jxGuides [sheet]="sheet" [scale]="1"></g>
      }
    </svg>
    <jx-copy-column />
    <jx-words-deck />
  `,
})
class Host {
  readonly store = inject(BenchStore);
  readonly setting = toSignal(this.store.setting$);
}

/** A gesture in four turns: before it, while it begins, in its middle, at its end. */
interface Hand {
  name: string;
  pass?: string;
  prepare?: (job: Job) => Job;
  pick?: boolean;
  /** It holds on to letters at their places in the words. */
  letters?: boolean;
  turns: (host: HTMLElement, store: BenchStore) => (() => void)[];
}

const pointers = (host: HTMLElement, selector: string, x: number, y: number, more: PointerEventInit = {}): (() => void)[] => {
  const handle = host.querySelector(selector);
  if (!handle) throw new Error(`There is no ${selector}`);
  for (let taker: Element | null = handle; taker; taker = taker.parentElement) {
    Object.assign(taker, { setPointerCapture: () => undefined, releasePointerCapture: () => undefined });
  }
  const { left, top } = handle.getBoundingClientRect();
  const send = (type: string, share: number) => () =>
    void handle.dispatchEvent(
      new PointerEvent(type, {
        ...{ bubbles: true, cancelable: true, button: 0, pointerId: 3, clientX: left + 1 + x * share, clientY: top + 1 + y * share },
        ...more,
      }),
    );
  return [send('pointerdown', 0), send('pointermove', 0.5), send('pointermove', 1), send('pointerup', 1)];
};
const dragged = (name: string, selector: string, x: number, y: number, more: Partial<Hand> = {}): Hand => ({
  name,
  ...more,
  turns: (host) => pointers(host, selector, x, y, { ctrlKey: true }),
});
const typed = (host: HTMLElement, text: string): void => {
  const field = host.querySelector<HTMLTextAreaElement>('[data-words="a"]')!;
  field.focus();
  field.setSelectionRange(field.value.length, field.value.length);
  field.dispatchEvent(new InputEvent('beforeinput', { bubbles: true, inputType: 'insertText', data: text }));
  field.value += text;
  field.dispatchEvent(new InputEvent('input', { bubbles: true, inputType: 'insertText', data: text }));
};
const arc = (job: Job): Job => withBlockSettings(job, 'a', { path: newPath('arc', { widthPt: 200 }, 20) });

const HANDS: readonly Hand[] = [
  dragged('moving a block', '[data-handle="move"]', 30, 20),
  dragged('turning a block', '[data-handle="turn"]', 40, 30),
  dragged('an edge of a frame', '.edge', -30, 0),
  dragged('a corner of a frame', '[data-corner="corner-se"]', 40, 12),
  dragged('the end of a line', '[data-testid="tracking-handle"]', 30, 0, { pass: 'tracking', letters: true }),
  dragged('a dot of letters', '[data-testid="move-letters"]', 8, -12, { pass: 'shift', pick: true, letters: true }),
  dragged('an arc of letters', '[data-testid="turn-letters"]', 18, 12, { pass: 'shift', pick: true, letters: true }),
  dragged('a place of a path', '[data-place="1"]', 10, 14, { pass: 'shift', prepare: arc }),
  dragged('where words are held on a path', '[data-place="hold"]', 20, 4, { pass: 'shift', prepare: arc }),
  dragged('a guide', '[data-handle="guide"]', 15, 0, {
    prepare: (job) =>
      withSheet(job, 'one', {
        guides: [
          { axis: 'x', atPt: 100 },
          { axis: 'x', atPt: 200 },
        ],
      }),
  }),
  { name: 'scrubbing', pass: 'words', turns: (host) => pointers(host, 'jx-value label', 30, 0) },
  {
    name: 'a held key',
    turns: (_host, store) => [1, 2, 3, 4].map(() => () => store.apply((job) => moveBlocks(job, ['a'], 1, 0), 'key-ArrowRight-1')),
  },
  { name: 'typing', turns: (host) => [...' new'].map((letter) => () => typed(host, letter)) },
  {
    name: 'dragging a colour',
    turns: (_host, store) => ['#100000', '#200000', '#300000', '#400000'].map((colour) => () => store.applyStyle({ colour }, 'colour-1')),
  },
];

/** An action of somebody else, and how it is found again. */
interface Theirs {
  name: string;
  change: (job: Job) => Job;
  isThere: (job: Job) => boolean;
}
const THEIRS: readonly Theirs[] = [
  { name: 'another block', change: (job) => restyle(job, 'b', { sizePt: 99 }), isThere: (job) => findBlock(job, 'b')?.style.sizePt === 99 },
  {
    name: 'the words of another block',
    change: (job) => editWords(job, 'b', [{ start: 0, end: 0, insert: 'Not ' }]),
    isThere: (job) => findBlock(job, 'b')?.words.startsWith('Not ') ?? false,
  },
  { name: 'the same block', change: (job) => restyle(job, 'a', { opacity: 0.5 }), isThere: (job) => findBlock(job, 'a')?.style.opacity === 0.5 },
  {
    name: 'a gap of the same block',
    change: (job) => withHand(job, 'a', 2, -31),
    isThere: (job) => findBlock(job, 'a')?.hand.some(({ milliem }) => milliem === -31) ?? false,
  },
  {
    name: 'the words of the same block',
    change: (job) => editWords(job, 'a', [{ start: 0, end: 0, insert: 'Q' }]),
    isThere: (job) => findBlock(job, 'a')?.words.startsWith('Q') ?? false,
  },
  { name: 'the sheet', change: (job) => withSheet(job, 'one', { name: 'Theirs' }), isThere: (job) => sheetOf(job, 'b')?.name === 'Theirs' },
  { name: 'the job', change: (job) => withLanguage(job, 'de'), isThere: ({ language }) => language === 'de' },
];

describe('what somebody else saves during a gesture', () => {
  let store: BenchStore;
  let save: SaveService;
  let server: FakeServer;
  let fixture: ComponentFixture<Host>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;

  async function bench(hand: Hand): Promise<void> {
    TestBed.resetTestingModule();
    server = new FakeServer(hand.prepare?.(sample()) ?? sample());
    TestBed.configureTestingModule({
      providers: [
        ...benchProviders(new FakeEngine(), new FakePreferences()),
        ...pageProviders,
        SaveService,
        { provide: ApiService, useValue: server },
        { provide: DraftStore, useValue: new FakeDrafts() },
        { provide: KeptJobs, useValue: new FakeKept() },
        { provide: UnsentService, useValue: { look: () => Promise.resolve() } },
      ],
    });
    store = TestBed.inject(BenchStore);
    save = TestBed.inject(SaveService);
    store.job$.subscribe((job) => job && save.update(job));
    save.came$.subscribe(({ job, merge }) => store.rebase(job, (state) => merge(state).job));
    store.open(await save.open('j'));
    store.selectBlock('a');
    if (hand.pass) store.showPass(hand.pass);
    fixture = TestBed.createComponent(Host);
    document.body.append(host());
    await until(() => store.sheetSetting !== undefined);
    await fixture.whenStable();
    if (hand.pick) TestBed.inject(LetterPicks).pick(1);
    await fixture.whenStable();
  }
  const pause = (): Promise<void> => new Promise((done) => setTimeout(done, 0));
  afterEach(() => host().remove());

  for (const hand of HANDS) {
    for (const theirs of THEIRS) {
      it(`is not lost: ${hand.name}, and ${theirs.name}`, async () => {
        for (const moment of [0, 1, 2, 3, 4]) {
          for (const sent of [false, true]) {
            const told = `moment ${moment}, ${sent ? 'what was done had been sent' : 'nothing had been sent'}`;
            await bench(hand);
            const opened = store.job!;
            const turns = hand.turns(host(), store);
            for (let turn = 0; turn <= turns.length; turn++) {
              if (turn === moment) {
                if (sent) await save.flush();
                server.written(theirs.change(server.record.job));
                // What is drawn may be behind, or not.
                for (let i = 0; i < 4; i++) await pause();
                if (moment % 2 === 0) await fixture.whenStable();
              }
              turns[turn]?.();
            }
            await save.flush();
            for (let i = 0; i < 4; i++) await pause();
            if (save.state.kind === 'conflict') {
              // Both changed the same: theirs waits on the server until somebody chooses.
              expect(theirs.isThere(save.state.theirs.job)).withContext(told).toBeTrue();
              await save.keepMine();
            } else expect(theirs.isThere(store.job!)).withContext(told).toBeTrue();
            await save.flush();
            // A drag that holds on to letters ends where their words are no longer those.
            if (!(hand.letters && theirs.name === 'the words of the same block')) expect(store.job).withContext(told).not.toEqual(theirs.change(opened));
            while (TestBed.inject(JobHistory).steps?.past.length) store.undo();
            expect(store.job).withContext(`undone: ${told}`).toEqual(theirs.change(opened));
            host().remove();
            save.close();
          }
        }
      }, 20_000);
    }
  }
});
