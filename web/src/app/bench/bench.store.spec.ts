import { TestBed } from '@angular/core/testing';
import { clearHand, findBlock, removeBlock, withHand } from '@jentrix/core/job';
import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import { BenchStore } from './bench.store';
import { FakeEngine, FakePreferences, benchProviders, frame, sample, settled } from './testing';

describe('bench store', () => {
  let engine: FakeEngine;
  let store: BenchStore;
  let preferences: FakePreferences;

  beforeEach(async () => {
    engine = new FakeEngine();
    preferences = new FakePreferences();
    TestBed.configureTestingModule({ providers: benchProviders(engine, preferences) });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    await settled();
  });

  it('sets the first sheet and works on its first block', () => {
    expect(store.view.sheetId).toBe('one');
    expect(store.block?.id).toBe('a');
    expect([...(store.sheetSetting?.blocks.keys() ?? [])]).toEqual(['a', 'b']);
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
    const open = store.findings.findings.filter(({ rule }) => rule === 'gap-open');
    store.selectBlock(undefined);
    store.nextFinding(open);
    expect(store.view.gap).toEqual({ blockId: 'a', at: 2 });
    store.nextFinding(open);
    expect(store.view.gap).toEqual({ blockId: 'b', at: 2 });
    store.nextFinding(open);
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

  it('fixes what stands now: what was found in earlier words waits to be looked for again', async () => {
    store.apply((job) => withHand(job, 'a', 2, -20));
    // The list still has the finding of before; it does not hold any more, and that of the other block does.
    expect(store.findings.findings.map(({ blockId }) => blockId)).toEqual(['a', 'b']);
    store.acceptPass('kerning');
    expect(findBlock(store.job!, 'b')?.hand).toEqual([]);
    await settled();
    expect(findBlock(store.job!, 'b')?.hand).toEqual([{ at: 2, milliem: -20 }]);
    store.undo();
    await settled();
    expect([findBlock(store.job!, 'a')?.hand.length, findBlock(store.job!, 'b')?.hand.length]).toEqual([1, 0]);
    const [old] = store.findings.findings;
    store.apply((job) => withHand(job, 'b', 2, -7));
    if (old) store.accept(old);
    await settled();
    expect(findBlock(store.job!, 'b')?.hand).toEqual([{ at: 2, milliem: -7 }]);
  });

  it('fixes on a sheet that was just gone to, though as many blocks were measured on the one before', async () => {
    store.apply((job) => removeBlock(job, 'b'));
    store.showSheet('two');
    await settled();
    const [ofSecond] = store.findings.findings;
    expect(ofSecond?.blockId).toBe('c');
    store.showSheet('one');
    await settled();
    store.showSheet('two');
    store.accept(ofSecond!);
    await settled();
    expect(findBlock(store.job!, 'c')?.hand).toEqual([{ at: 2, milliem: -20 }]);
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
    expect([...(store.sheetSetting?.blocks.keys() ?? [])]).toEqual(['c']);
    store.apply((job) => ({ ...job, sheets: job.sheets.filter(({ id }) => id !== 'two') }));
    expect(store.view.sheetId).toBe('one');
    store.undo();
    expect(store.job?.sheets.length).toBe(2);
  });

  it('measures everything anew when limits or faces change', async () => {
    engine.inspected.length = 0;
    preferences.subject.next({ ...DEFAULT_PREFERENCES, cautionMilliem: -5 });
    await settled();
    expect(engine.inspected).toEqual([['a', 'b']]);
    engine.subject.next({ items: [], standInId: 'x' });
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

  it('learns the designer’s own hand from what is done with proposals, and from nothing else', async () => {
    const decisions = (): Record<string, number> =>
      Object.fromEntries(Object.entries(preferences.current.taste.kinds).map(([kind, { decisions: count }]) => [kind, count]));
    // Walking is no decision; a gap left with another value is one, however often it was nudged.
    store.placeGap({ blockId: 'a', at: 1 });
    await settled();
    store.walk(1);
    await settled();
    expect(decisions()).toEqual({});
    for (const milliem of [-4, -8, -12]) {
      store.apply((job) => withHand(job, 'a', 2, milliem));
      await settled();
    }
    expect(decisions()).toEqual({});
    store.walk(1);
    await settled();
    expect(decisions()).toEqual({ 'straight to straight': 1 });
    expect(preferences.current.taste.kinds['straight to straight']?.given).toBe(-10 * -12);
    // Back to nothing by hand is none.
    store.apply((job) => withHand(job, 'a', 3, -12));
    await settled();
    store.apply((job) => clearHand(job, 'a', 3));
    await settled();
    store.placeGap(undefined);
    expect(decisions()).toEqual({ 'straight to straight': 1 });
    // A finding taken, and one silenced.
    const [worst] = store.findings.findings;
    store.intend(worst!, true);
    await settled();
    store.intend(worst!, false);
    await settled();
    store.accept(worst!);
    await settled();
    expect(decisions()).toEqual({ 'straight to straight': 1, 'diagonal to diagonal': 2 });
    expect(preferences.current.taste.kinds['diagonal to diagonal']?.given).toBe(20 * 20);
  });
});
