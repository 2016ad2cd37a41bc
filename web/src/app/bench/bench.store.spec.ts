import { TestBed } from '@angular/core/testing';
import type { Finding, Inspection } from '@jentrix/core/findings';
import { type Block, type Job, createBlock, createJob, findBlock } from '@jentrix/core/job';
import { DEFAULT_PREFERENCES, type Preferences } from '@jentrix/core/preferences';
import type { BlockSetting } from '@jentrix/core/setting';
import { BehaviorSubject } from 'rxjs';
import { EngineService } from '../engine/engine.service';
import type { SetReply, SetRequest } from '../engine/protocol';
import { PreferencesService } from '../ui/preferences.service';
import { BenchStore } from './bench.store';

const frame = { xPt: 10, yPt: 10, widthPt: 300, heightPt: 100 };

/** Two sheets: blocks `a` (AVATAR) and `b` on the first, `c` on the second. */
function sample(): Job {
  let n = 0;
  const job = createJob('Store', () => `id${n++}`);
  const sheet = job.sheets[0]!;
  return {
    ...job,
    sheets: [
      { ...sheet, id: 'one', blocks: [createBlock('a', 'AVATAR', frame), createBlock('b', 'Two nights', frame)] },
      { ...sheet, id: 'two', blocks: [createBlock('c', 'Vega', frame)] },
    ],
  };
}

/** Sets every block as one line of one glyph a letter, and finds one thing in a block that is not hand-kerned. */
class FakeEngine {
  readonly faces$ = new BehaviorSubject({ items: [], standInId: '' });
  readonly sets: SetRequest[] = [];
  readonly inspected: string[][] = [];
  fails = false;

  async set(request: SetRequest): Promise<SetReply> {
    this.sets.push(request);
    if (this.fails) throw new Error('The engine is away');
    const settings = request.blocks.map((block): BlockSetting => {
      const glyphs = [...block.words].map((_, cluster) => ({ glyphId: 1, cluster, xPt: cluster * 10, yPt: 0, offsetPt: 0 }));
      const run = { start: 0, end: block.words.length, style: block.style, scale: 1, xScale: 1, glyphs, rules: [] };
      const line = { start: 0, end: block.words.length, visibleEnd: block.words.length, leftPt: 0, widthPt: 100, baselinePt: 10, leadingPt: 12, sizePt: 10, runs: [run] }; // prettier-ignore
      return { blockId: block.id, lines: [line], frame: block.frame, heightPt: 10, cut: false, reducedCaps: false, wordSpaceMilliem: 250, missingFaces: [] };
    });
    return Promise.resolve({ settings, inks: [], instances: [] });
  }

  async inspect(blocks: Block[]): Promise<Inspection[]> {
    this.inspected.push(blocks.map(({ id }) => id));
    return Promise.resolve(
      blocks.map((block): Inspection => {
        const at = 2;
        const finding: Finding = {
          rule: 'gap-open',
          need: 'K4',
          blockId: block.id,
          at,
          severity: 'fault',
          visiblePt: block.id === 'a' ? 5 : 3,
          subject: 'VA',
          message: 'too open',
          changeMilliem: -20,
          proposal: { hand: [{ at, milliem: -20 }] },
        };
        const open = block.hand.length === 0;
        const silenced = block.intended.length > 0;
        return {
          blockId: block.id,
          evenness: 50,
          evennessProposed: 90,
          lineEvenness: [50],
          deviations: open ? [20, 0] : [0, 0],
          proposedDeviations: [0, 0],
          findings: open && !silenced ? [finding] : [],
          intended: open && silenced ? [finding] : [],
        };
      }),
    );
  }
}

describe('bench store', () => {
  let engine: FakeEngine;
  let store: BenchStore;
  const preferences$ = new BehaviorSubject<Preferences>(DEFAULT_PREFERENCES);
  /** Waits until the engine has nothing more to say. */
  const settled = async (): Promise<void> => {
    for (let i = 0; i < 30; i++) await Promise.resolve();
  };

  beforeEach(async () => {
    engine = new FakeEngine();
    preferences$.next(DEFAULT_PREFERENCES);
    TestBed.configureTestingModule({
      providers: [
        BenchStore,
        { provide: EngineService, useValue: engine },
        { provide: PreferencesService, useValue: { preferences$, current: DEFAULT_PREFERENCES } },
      ],
    });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    await settled();
  });

  it('sets the first sheet and works on its first block', () => {
    expect(store.view.sheetId).toBe('one');
    expect(store.block?.id).toBe('a');
    expect([...(store.sheetSetting?.settings.keys() ?? [])]).toEqual(['a', 'b']);
  });

  it('sets and measures only the block that changed', async () => {
    engine.sets.length = 0;
    engine.inspected.length = 0;
    store.applyStyle({ sizePt: 20 });
    await settled();
    expect(engine.sets.map(({ blocks }) => blocks.map(({ id }) => id))).toEqual([['a']]);
    expect(engine.inspected).toEqual([['a']]);
  });

  it('walks gaps across blocks, and goes from finding to finding, the most visible first', () => {
    store.placeGap({ blockId: 'a', at: 5 });
    store.walk(1);
    expect(store.view.gap).toEqual({ blockId: 'b', at: 1 });
    const rules = new Set(['gap-open']);
    store.selectBlock(undefined);
    store.nextFinding(rules);
    expect(store.view.gap).toEqual({ blockId: 'a', at: 2 });
    store.nextFinding(rules);
    expect(store.view.gap).toEqual({ blockId: 'b', at: 2 });
    store.nextFinding(rules);
    expect(store.view.gap).toEqual({ blockId: 'a', at: 2 });
  });

  it('takes one proposal or all of a kind, each as one step, and silences a finding', async () => {
    const [worst] = store.findings.findings;
    expect(store.findings.findings.length).toBe(2);
    if (worst) store.accept(worst);
    await settled();
    expect(findBlock(store.job!, 'a')?.hand).toEqual([{ at: 2, milliem: -20 }]);
    expect(store.findings.findings.length).toBe(1);
    store.undo();
    await settled();
    store.acceptAll('gap-open');
    await settled();
    expect(store.findings.findings).toEqual([]);
    store.undo();
    await settled();
    expect(store.findings.findings.length).toBe(2);
    const [again] = store.findings.findings;
    if (again) store.intend(again, true);
    await settled();
    expect([store.findings.findings.length, store.findings.intended.length]).toEqual([1, 1]);
  });

  it('gives settings to the picked letters only, and forgets them with their block', () => {
    store.setSelection('a', { start: 1, end: 3 }, true);
    store.applyStyle({ sizePt: 20 });
    expect(store.block?.runs).toEqual([{ start: 1, end: 3, style: { sizePt: 20 } }]);
    expect(store.style?.sizePt).toBe(20);
    store.selectBlock('b');
    expect(store.range).toBeUndefined();
    store.applyStyle({ sizePt: 30 });
    expect(store.block?.style.sizePt).toBe(30);
  });

  it('picks several blocks, copies them together, and lets them go one by one', () => {
    store.pickAlso('b');
    expect(store.picked).toEqual(['a', 'b']);
    store.pickAlso('a');
    expect(store.picked).toEqual(['b']);
    store.pickAlso('a');
    store.duplicatePicked();
    expect(store.sheet?.blocks.length).toBe(4);
    expect(store.picked.length).toBe(2);
    expect(store.picked).not.toContain('a');
    store.undo();
    expect(store.sheet?.blocks.length).toBe(2);
    expect(store.picked.every((id) => ['a', 'b'].includes(id))).toBeTrue();
  });

  it('adds copy in the settings used last and asks for its words to be edited', () => {
    const asked: unknown[] = [];
    store.editRequests$.subscribe((request) => asked.push(request));
    store.selectBlock('b');
    store.applyStyle({ sizePt: 33 });
    store.addCopy(frame, 'New copy');
    const made = store.block;
    expect([made?.words, made?.style.sizePt]).toEqual(['New copy', 33]);
    expect(asked).toEqual([{ blockId: made?.id, start: 0, end: 8 }]);
  });

  it('goes to another sheet and stays valid when undo takes it away', async () => {
    store.showSheet('two');
    await settled();
    expect([...(store.sheetSetting?.settings.keys() ?? [])]).toEqual(['c']);
    store.apply((job) => ({ ...job, sheets: job.sheets.filter(({ id }) => id !== 'two') }));
    expect(store.view.sheetId).toBe('one');
    store.undo();
    expect(store.job?.sheets.length).toBe(2);
  });

  it('measures everything anew when limits or faces change', async () => {
    engine.inspected.length = 0;
    preferences$.next({ ...DEFAULT_PREFERENCES, cautionMilliem: -5 });
    await settled();
    expect(engine.inspected).toEqual([['a', 'b']]);
    engine.faces$.next({ items: [], standInId: 'x' });
    await settled();
    expect(engine.inspected.length).toBe(2);
  });

  it('says when the engine fails, keeps the edit, and sets again when told to', async () => {
    const errors: (string | undefined)[] = [];
    store.engineError$.subscribe((error) => errors.push(error));
    engine.fails = true;
    store.applyStyle({ sizePt: 21 });
    await settled();
    expect(errors.at(-1)).toContain('away');
    expect(store.block?.style.sizePt).toBe(21);
    engine.fails = false;
    store.retry();
    await settled();
    expect(errors.at(-1)).toBeUndefined();
  });
});
