/** The base of the bench's specs: a small job, and an engine that sets every letter ten points wide. */
import type { FaceList, JobPage, JobRecord, Picture, Pull } from '@jentrix/core/api';
import type { GapOfJob, GivenWhite, WhiteTarget } from '@jentrix/core/same-white';
import type { Finding, Inspection, JobCheck, Proposal } from '@jentrix/core/findings';
import type { Exercise } from '@jentrix/core/drill';
import {
  type Block,
  type Job,
  type Sheet,
  type SheetPreset,
  allBlocks,
  createBlock,
  createJob,
  createSheet,
  findBlock,
  restyle,
  sheetOfPreset,
} from '@jentrix/core/job';
import type { CutItem, FirstCut } from '@jentrix/core/refine';
import type { SmallForm, SmallKind } from '@jentrix/core/superiors';
import { DEFAULT_PREFERENCES, type Preferences } from '@jentrix/core/preferences';
import type { BlockSetting, GapLedger } from '@jentrix/core/setting';
import type { PullReason } from '@jentrix/core/pulls';
import { Injectable, type Provider, type Type, signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { BehaviorSubject, type Observable, defer, of, throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { type FaceDrawing, EngineService } from '../engine/engine.service';
import type { FaceProbe, InspectReply, InspectRequest, SetReply, SetRequest, ShortLastLineOfBlock, TrackingCurve, TrialReply } from '../engine/protocol';
import { UserPreferences } from '../settings/user-preferences';
import { until, signalOf } from '../ui/testing';
import { BENCH_STATE, BenchStore } from './bench.store';
import { SaveService } from './save.service';
import { ALL_PASSES, providePasses } from './passes';
import { Table } from './table/table';

export const frame = { xPt: 10, yPt: 10, widthPt: 300, heightPt: 100 };

/** Two sheets: blocks `a` (AVATAR) and `b` on the first, `c` on the second. */
export function sample(): Job {
  let n = 0;
  const sheet = (id: string, ...blocks: Block[]): Sheet => ({ ...createSheet(id, `Sheet ${id}`, 600, 800, 'mm'), blocks });
  return {
    ...createJob('Store', () => `id${n++}`),
    sheets: [sheet('one', createBlock('a', 'AVATAR', frame), createBlock('b', 'Two nights', frame)), sheet('two', createBlock('c', 'Vega', frame))],
  };
}

/** Sets every block as one line of one glyph a letter, and finds one thing in a block that is not hand-kerned. */
export class FakeEngine implements Pick<EngineService, keyof EngineService> {
  readonly outlinesCame = 0;
  readonly subject = new BehaviorSubject<FaceList>({ items: [], standInId: '' });
  readonly faces$ = this.subject.asObservable();
  readonly list = signalOf(this.subject);
  /** The blocks as they were set last. */
  private readonly known = new Map<string, Block>();
  get faces(): FaceList['items'] {
    return this.subject.value.items;
  }
  readonly sets: SetRequest[] = [];
  readonly inspected: string[][] = [];
  fails = false;

  async set(request: SetRequest): Promise<SetReply> {
    this.sets.push(request);
    for (const block of request.blocks) this.known.set(block.id, block);
    if (this.fails) throw new Error('The engine is away');
    const settings = request.blocks.map((block): BlockSetting => {
      const glyphs = Array.from({ length: block.words.length }, (_, cluster) => ({ glyphId: 1, cluster, xPt: cluster * 10, yPt: 0, offsetPt: 0 }));
      const run = { start: 0, end: block.words.length, style: block.style, scale: 1, xScale: 1, glyphs, rules: [] };
      const line = {
        start: 0,
        end: block.words.length,
        visibleEnd: block.words.length,
        leftPt: 0,
        widthPt: 100,
        baselinePt: 10,
        leadingPt: 12,
        sizePt: 10,
        runs: [run],
      };
      return { blockId: block.id, lines: [line], frame: block.frame, heightPt: 10, cut: false, reducedCaps: false, wordSpaceMilliem: 250, missingFaces: [] };
    });
    const reply: SetReply = { settings, inks: [], instances: [] };
    const focused = request.focus && this.known.get(request.focus.blockId);
    if (focused) reply.focus = { lineIndex: 0, ledgers: ledgersOf(focused), white: undefined };
    if (request.lineGapsOf !== undefined) reply.lineGaps = [{ at: 3, baselinePt: 12, clearPt: -1, xPt: 5, yPt: 6, whitePt: 2 }];
    return Promise.resolve(reply);
  }

  async inspect({ changed }: InspectRequest): Promise<InspectReply> {
    this.inspected.push([...changed]);
    const blocks = changed.map((id): Inspection => {
      const block = this.known.get(id) ?? createBlock(id, '', frame);
      const at = 2;
      const finding: Finding = {
        rule: 'gap-open',
        pass: 'kerning',
        name: 'Gaps too open',
        blockId: block.id,
        at,
        severity: 'fault',
        visiblePt: block.id === 'a' ? 5 : 3,
        subject: 'VA',
        message: 'too open',
        changeMilliem: -20,
        judged: { kind: 'diagonal to diagonal', plainMilliem: -20, shouldMilliem: -20, totalMilliem: 0 },
        proposal: { hand: [{ at, milliem: -20 }] },
      };
      const open = block.hand.length === 0;
      const silenced = block.intended.length > 0;
      return {
        blockId: block.id,
        evenness: 50,
        evennessProposed: 90,
        lineEvenness: [50],
        letterMilliem: 120,
        deviations: (open ? [20, 0] : [0, 0]).map((off) => ({ off, doubt: 0, agreed: true })),
        proposedDeviations: [0, 0].map((off) => ({ off, doubt: 0, agreed: true })),
        findings: open && !silenced ? [finding] : [],
        intended: open && silenced ? [finding] : [],
      };
    });
    return Promise.resolve({ blocks, sheet: [] });
  }

  async tryOut(blocks: Block[]): Promise<TrialReply> {
    const { settings } = await this.set({ blocks });
    const { blocks: inspections } = await this.inspect({
      kind: 'other',
      sheet: createSheet('trial', 'Trial', 100, 100, 'pt'),
      blockIds: [],
      changed: blocks.map(({ id }) => id),
    });
    return { settings, inspections, instances: [] };
  }

  refreshFaces(): Promise<void> {
    return Promise.resolve();
  }
  engine(): never {
    throw new Error('Nothing at the bench speaks to the worker itself');
  }
  /** Tracks every block of the job by -5, unless that is reverted. */
  firstCut(job: Job, without: readonly string[] = []): Promise<FirstCut> {
    if (this.fails) return Promise.reject(new Error('The engine is away'));
    const measure = { evenness: 50, findings: 3 };
    const items = job.sheets.flatMap(({ name, blocks }) =>
      blocks.map(({ id, words }): CutItem => ({
        ...{ id: `tracking ${id}`, step: 'tracking', sheet: name, blockId: id, words, what: 'tracking', from: '0', to: '−5', places: 1 },
        kept: !without.includes(`tracking ${id}`),
      })),
    );
    const made = items.filter(({ kept }) => kept).reduce((now, { blockId }) => restyle(now, blockId, { trackingMilliem: -5 }), job);
    const after = { evenness: 60, findings: 2 };
    return Promise.resolve({ job: made, before: measure, after, steps: [{ id: 'tracking', name: 'Tracking', before: measure, after, items }] });
  }
  shortLastLines(blocks: readonly Block[]): Promise<ShortLastLineOfBlock[]> {
    const tighten = [{ start: 0, end: 3, milliem: -8 }];
    const fixes = [{ kind: 'tighten' as const, says: '“Two” by −8', cost: 0.5, proposal: { tighten } }];
    const found = blocks.filter(({ tightened, words }) => tightened.length === 0 && words !== '');
    return Promise.resolve(found.map(({ id }) => ({ blockId: id, start: 4, end: 10, words: `nights of ${id}`, widthPt: 10, sizePt: 48, fixes })));
  }
  async check(job: Job): Promise<JobCheck> {
    const { blocks } = await this.inspect({
      kind: job.kind,
      sheet: createSheet('check', 'Check', 100, 100, 'pt'),
      blockIds: [],
      changed: allBlocks(job).map(({ id }) => id),
    });
    const measures = job.sheets.flatMap((sheet) =>
      sheet.blocks.map(({ id, hand, words }) => ({
        ...{ sheetId: sheet.id, blockId: id, evenness: hand.length > 0 ? 90 : 50, findings: hand.length > 0 ? 0 : 1 },
        ...{ lines: 1, widthPt: words.length * 10, heightPt: 10 },
      })),
    );
    const findings = blocks.flatMap((one) => one.findings.map((finding) => ({ ...finding, sheet: 'Sheet', words: 'words' })));
    return { findings, evenness: 50, deviations: [20, 0].map((off) => ({ off, doubt: 0, agreed: true })), blocks: measures };
  }
  giveWhite(job: Job, from: GapOfJob & { whiteMilliem?: number | undefined }, to: WhiteTarget): Promise<GivenWhite> {
    const { whiteMilliem = 200, blockId, at } = from;
    const gaps = to.kind === 'gaps' ? to.gaps : (findBlock(job, blockId)?.hand ?? []).map((one) => ({ blockId, at: one.at }));
    return Promise.resolve({
      whiteMilliem,
      hand: gaps.filter((gap) => gap.at !== at || to.kind === 'gaps').map((gap) => ({ ...gap, milliem: whiteMilliem / 10 })),
    });
  }
  ledApart({ words }: Block): Promise<Proposal | undefined> {
    return Promise.resolve(words.includes('\n') ? { settings: { leading: { kind: 'pt', pt: 333 } } } : undefined);
  }
  letGo(blockId: string): Promise<Block | undefined> {
    const block = this.known.get(blockId);
    return Promise.resolve(block && { ...block, style: { ...block.style, sizePt: 77 }, fit: null });
  }
  outlines(): Promise<string> {
    return Promise.resolve('M0 0Z');
  }

  smallForms(_style: unknown, _text: string, kind: SmallKind): Promise<SmallForm[]> {
    const milliem = kind === 'inferior' ? -150 : 350;
    return Promise.resolve([
      { source: 'font', style: { features: { sups: 1 } }, says: 'the font’s own (sups)' },
      { source: 'made', style: { scaleX: 0.6, scaleY: 0.6, baselineShiftMilliem: milliem }, says: 'made: 60 % of the size' },
    ]);
  }
  drawing(): FaceDrawing {
    return { unitsPerEm: 1000, metrics: METRICS, outlines: new Map([[1, 'M0,0L500,0L500,-700Z']]) };
  }
  advise(style: { sizePt: number }): Promise<TrackingCurve> {
    return Promise.resolve({
      points: [6, 240].map((sizePt) => ({ sizePt, milliem: 10 })),
      recommended: 10,
      reasons: 'larger than it is drawn for +10',
      suitsPt: style.sizePt,
    });
  }
  svg(): Promise<string> {
    return Promise.resolve('<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"/>');
  }
  /** A sheet for every size, with copies of the blocks as they are. */
  sizes(job: Job, sheetId: string, sizes: readonly SheetPreset[]): Promise<{ job: Job; sheetIds: string[] }> {
    const model = job.sheets.find(({ id }) => id === sheetId);
    if (!model) return Promise.resolve({ job, sheetIds: [] });
    const parts = model.blocks.map((block) => ({ ...block, part: `part ${block.id}` }));
    const made = sizes.map((size) => ({ ...sheetOfPreset(size.name, size), blocks: parts.map((block) => ({ ...block, id: `${block.id} in ${size.name}` })) }));
    const sheets = job.sheets.flatMap((sheet) => (sheet === model ? [{ ...sheet, blocks: parts }, ...made] : [sheet]));
    return Promise.resolve({ job: { ...job, sheets }, sheetIds: made.map(({ id }) => id) });
  }
  deal(): Promise<Exercise> {
    return Promise.reject(new Error('Nothing is dealt at the bench'));
  }
  probe(): Promise<FaceProbe> {
    return Promise.resolve({ features: [], alternates: [], namedInstances: [], unitsPerEm: 1000 });
  }
}

const METRICS = {
  ascender: 900,
  descender: -200,
  lineGap: 0,
  capHeight: 700,
  xHeight: 500,
  underlineOffset: -100,
  underlineSize: 50,
  strikeOffset: 300,
  strikeSize: 50,
};

/** The gaps of a block of one line: 10 more open than they should be, which the proposal takes back. */
const ledgersOf = ({ words, hand, style }: Block): GapLedger[] =>
  Array.from({ length: Math.max(0, words.length - 1) }, (_, i): GapLedger => {
    const at = i + 1;
    const handMilliem = hand.find((kern) => kern.at === at)?.milliem ?? 0;
    return {
      at,
      xPt: at * 10,
      left: { start: i, end: at },
      right: { start: at, end: at + 1 },
      source: style.kerning,
      fontMilliem: 0,
      shapeMilliem: -10,
      pair: 'straight to straight',
      plainMilliem: -10,
      weighedMilliem: 0,
      shouldMilliem: -10,
      certainty: 1,
      evennessPart: { off: 10 + handMilliem, doubt: 0, agreed: true },
      handMilliem,
      totalMilliem: handMilliem,
      whiteMilliem: 60,
      targetMilliem: 50,
      limit: 'reached',
      shapes: { left: 'straight', right: 'straight' },
      deviationMilliem: 10 + handMilliem,
      distancePt: 2,
      totalPt: 0,
      trackingMilliem: style.trackingMilliem,
      sizePt: style.sizePt,
      joined: false,
      atSpace: words.charAt(i) === ' ' || words.charAt(at) === ' ',
    };
  });

/** Preferences that are kept nowhere. */
export class FakePreferences {
  readonly subject = new BehaviorSubject<Preferences>(DEFAULT_PREFERENCES);
  readonly preferences$ = this.subject.asObservable();
  readonly preferences = signalOf(this.subject);
  readonly read$ = new BehaviorSubject(true);
  readonly read = signalOf(this.read$);
  get current(): Preferences {
    return this.subject.value;
  }
  change(change: Partial<Preferences>): Promise<void> {
    this.subject.next({ ...this.current, ...change });
    return Promise.resolve();
  }
}

/** A server that keeps pulls and pictures, and nothing else. */
@Injectable()
export class FakePullsApi implements Pick<
  ApiService,
  'listPulls' | 'keepPull' | 'readPull' | 'renamePull' | 'deletePull' | 'measurePull' | 'keepPicture' | 'listJobs' | 'readJob'
> {
  readonly kept: { pull: Pull; job: Job }[] = [];
  fails = false;

  private answer<T>(make: () => T): Observable<T> {
    return defer(() => (this.fails ? throwError(() => new ApiError('offline', 'The server can’t be reached.')) : of(make())));
  }
  private one(id: string): { pull: Pull; job: Job } {
    const found = this.kept.find(({ pull }) => pull.id === id);
    if (!found) throw new Error(`There is no pull ${id}`);
    return found;
  }
  listPulls(): Observable<Pull[]> {
    return this.answer(() => this.kept.map(({ pull }) => pull).reverse());
  }
  keepPull(_jobId: string, job: Job, reason: PullReason, name = ''): Observable<Pull> {
    return this.answer(() => {
      const pull: Pull = { id: `p${this.kept.length}`, name, reason, createdAt: '2026-11-27T10:00:00.000Z', evenness: null, findings: null };
      this.kept.push({ pull, job });
      return pull;
    });
  }
  readPull(_jobId: string, id: string): Observable<{ pull: Pull; job: Job }> {
    return this.answer(() => this.one(id));
  }
  renamePull(_jobId: string, id: string, name: string): Observable<Pull> {
    return this.answer(() => Object.assign(this.one(id).pull, { name }));
  }
  deletePull(_jobId: string, id: string): Observable<unknown> {
    return this.answer(() => this.kept.splice(this.kept.indexOf(this.one(id)), 1));
  }
  measurePull(_jobId: string, id: string): Observable<Pull> {
    return this.answer(() => ({ ...this.one(id).pull, evenness: 80, findings: 2 }));
  }
  keepPicture(): Observable<Picture> {
    return this.answer(() => ({ id: 'scan', type: 'image/png', width: 200, height: 100 }));
  }
  listJobs(): Observable<JobPage> {
    return this.answer(() => ({ items: [], total: 0, page: 1, pageSize: 50 }));
  }
  readJob(): Observable<JobRecord> {
    return throwError(() => new ApiError('not-found', 'There is no such job.'));
  }
}

/** A bench with nothing real behind it. */
export const benchProviders = (engine: FakeEngine, preferences: FakePreferences, passes = ALL_PASSES): Provider[] => [
  ...BENCH_STATE,
  ...providePasses(passes),
  BenchStore,
  { provide: EngineService, useValue: engine },
  { provide: SaveService, useValue: { jobId: 'j1', others$: of([]), others: signal([]) } },
  { provide: ApiService, useClass: FakePullsApi },
  { provide: UserPreferences, useValue: preferences },
];

/** A deck below the table, both on the page. */
export async function deckAndTable<Deck>(deck: Type<Deck>): Promise<{ fixture: ComponentFixture<Deck>; table: ComponentFixture<Table> }> {
  const table = TestBed.createComponent(Table);
  Object.assign((table.nativeElement as HTMLElement).style, { display: 'block', width: '600px', height: '800px' });
  const fixture = TestBed.createComponent(deck);
  document.body.append(table.nativeElement as HTMLElement, fixture.nativeElement as HTMLElement);
  await until(() => table.componentInstance.percent() !== 75);
  return { fixture, table };
}

/** Waits until the engine has nothing more to say. */
export async function settled(): Promise<void> {
  for (let i = 0; i < 30; i++) await Promise.resolve();
  // Findings wait until the page has nothing else to do.
  await new Promise<void>((done) => requestIdleCallback(() => done(), { timeout: 1000 }));
  for (let i = 0; i < 30; i++) await Promise.resolve();
}
