/** The wall: pulls and what has changed since, ways of looking, and what is still open, each as the designer uses it. */
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { findBlock, restyle, updateBlock, withHand } from '@jentrix/core/job';
import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import { ApiService } from '../../api/api.service';
import { EngineService } from '../../engine/engine.service';
import { pageProviders, press, until } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { heardKey, allKeys } from '../keys';
import type { KeyContext } from '../pass';
import { ALL_PASSES } from '../passes';
import { Instead } from '../state/instead';
import { JobHistory } from '../state/job-history';
import { Looks, blurOf } from '../state/looks';
import { Pulls } from '../state/pulls';
import type { Table } from '../table/table';
import { FakeEngine, FakePreferences, FakePullsApi, benchProviders, deckAndTable, sample, settled } from '../testing';
import { Comparison } from './proof/comparison';
import { OpenWalk } from './proof/open-walk';
import { ProofDeck } from './proof/proof-deck';
import { ProofState } from './proof/proof.state';
import { ReadingCaret } from './proof/reading-caret';
import { CARD_MM, Screen, angleSeen } from './proof/screen';

describe('the Proof pass', () => {
  let store: BenchStore;
  let api: FakePullsApi;
  let fixture: ComponentFixture<ProofDeck>;
  let table: ComponentFixture<Table>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const sheet = (): HTMLElement => table.nativeElement as HTMLElement;
  const stable = async (): Promise<void> => {
    await settled();
    await fixture.whenStable();
    await table.whenStable();
  };
  const says = (): string[] => [...host().querySelectorAll('[data-testid="change"] .row > span:first-child')].map(({ textContent }) => textContent.trim());
  function key(text: string, init: KeyboardEventInit = {}): void {
    const event = new KeyboardEvent('keydown', { key: text, ...init });
    const heard = heardKey(allKeys(ALL_PASSES), event, 'bench', DEFAULT_PREFERENCES, store.view.pass);
    const context = { store, get: (state: never) => TestBed.inject(state), preferences: DEFAULT_PREFERENCES, gesture: text } as unknown as KeyContext;
    heard?.binding.run(context, event, heard.which);
  }

  beforeEach(async () => {
    localStorage.clear();
    TestBed.configureTestingModule({ providers: [...pageProviders, ...benchProviders(new FakeEngine(), new FakePreferences())] });
    store = TestBed.inject(BenchStore);
    api = TestBed.inject(ApiService) as unknown as FakePullsApi;
    TestBed.inject(Pulls);
    store.open(sample());
    store.showPass('proof');
    ({ fixture, table } = await deckAndTable(ProofDeck));
    await stable();
  });
  afterEach(() => {
    host().remove();
    sheet().remove();
  });

  it('keeps a pull by key and tells what has changed since, each to give back alone', async () => {
    key('*');
    await until(() => host().querySelectorAll('[data-testid="pull"]').length === 1);
    await stable();
    expect(host().querySelector('[data-testid="pull"]')?.textContent).toContain('80 even, 2 findings');
    expect(host().querySelector('[data-testid="changes"]')?.textContent).toBe('0 changes');
    store.apply((job) => withHand(restyle(job, 'b', { trackingMilliem: 50 }), 'a', 1, -20));
    await stable();
    expect(says()).toEqual(['Kerning of “AV”: none → −20', 'Tracking: 0 → +50']);
    host().querySelector<HTMLElement>('[data-testid="change"] .row')?.click();
    expect(store.view.gap).toEqual({ blockId: 'a', at: 1 });
    await press(fixture, 'Revert: Kerning of “AV”: none → −20', host());
    await stable();
    expect(says()).toEqual(['Tracking: 0 → +50']);
    store.undo();
    await stable();
    expect(says().length).toBe(2);
    await press(fixture, 'Revert all', host());
    await stable();
    expect(store.job).toEqual(sample());
    expect(host().querySelector('jx-changes-list')?.textContent).toContain('No differences');
  });

  it('shows the pull in place while the key is held, beside, wiped over and laid over', async () => {
    await TestBed.inject(ProofState).keep();
    store.apply((job) => restyle(job, 'a', { trackingMilliem: 50 }));
    await stable();
    const { shown, second, wipe } = TestBed.inject(Instead);
    // Walking sets nothing of the pull again.
    const engine = TestBed.inject(EngineService) as unknown as FakeEngine;
    const sets = engine.sets.filter(({ blocks }) => blocks.some(({ id }) => id.startsWith('shown-'))).length;
    expect(sets).toBeGreaterThan(0);
    store.walk(1);
    store.walk(1);
    await stable();
    expect(engine.sets.filter(({ blocks }) => blocks.some(({ id }) => id.startsWith('shown-'))).length).toBe(sets);
    key(' ');
    expect(shown()?.blocks[0]?.block.style.trackingMilliem).toBe(0);
    await stable();
    expect(sheet().querySelector('[data-instead]')).not.toBeNull();
    dispatchEvent(new KeyboardEvent('keyup', { key: ' ' }));
    expect(shown()).toBeUndefined();
    await press(fixture, 'Side by side', host());
    await stable();
    expect(second()?.side).toBe('beside');
    expect(sheet().querySelector('[data-second="beside"] [role="img"]')).not.toBeNull();
    expect(sheet().querySelector('[data-handle]')).toBeNull();
    await press(fixture, 'Wipe', host());
    await stable();
    const edge = sheet().querySelector('[role="slider"]');
    edge?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true }));
    expect(wipe()).toBeCloseTo(0.52, 5);
    await press(fixture, 'Overlay', host());
    await stable();
    expect(sheet().querySelector('.letters.now')).not.toBeNull();
    await press(fixture, 'Swap', host());
    await stable();
    expect(second()).toBeUndefined();
    // Another pass shows the sheet as it is.
    await press(fixture, 'Side by side', host());
    await stable();
    expect(second()).toBeDefined();
    fixture.destroy();
    expect(second()).toBeUndefined();
  });

  it('compares two pulls, which gives nothing back', async () => {
    const pulls = TestBed.inject(Pulls);
    await pulls.keep('first');
    store.apply((job) => restyle(job, 'a', { trackingMilliem: 50 }));
    await pulls.keep('second');
    store.apply((job) => restyle(job, 'a', { trackingMilliem: 90 }));
    const state = TestBed.inject(ProofState);
    state.compareWith('p0');
    state.toId.set('p1');
    const { to } = fixture.debugElement.injector.get(Comparison);
    await until(() => to() !== store.job && to() !== undefined);
    await stable();
    expect(says()).toEqual(['Tracking: 0 → +50']);
    expect(host().querySelector('[data-testid="change"] .btn')).toBeNull();
    expect(TestBed.inject(Instead).standIn()?.blocks[0]?.block.style.trackingMilliem).toBe(50);
    state.compareWith('p1');
    await stable();
    expect([state.fromId(), state.toId()]).toEqual(['p1', undefined]);
    expect(says()).toEqual(['Tracking: +50 → +90']);
  });

  it('renames, restores and deletes pulls, each with a way back', async () => {
    const pulls = TestBed.inject(Pulls);
    await pulls.keep();
    await pulls.rename('p0', ' Before lunch ');
    expect(pulls.value?.[0]?.name).toBe('Before lunch');
    store.apply((job) => restyle(job, 'a', { trackingMilliem: 50 }));
    await stable();
    await press(fixture, 'More about Before lunch', host());
    await press(fixture, 'Restore');
    await stable();
    expect(findBlock(store.job!, 'a')?.style.trackingMilliem).toBe(0);
    store.undo();
    expect(findBlock(store.job!, 'a')?.style.trackingMilliem).toBe(50);
    TestBed.inject(ProofState).fromId.set('p0');
    await pulls.delete(pulls.value![0]!, 'Before lunch');
    expect(pulls.value).toEqual([]);
    expect(TestBed.inject(ProofState).fromId()).toBeUndefined();
    api.fails = true;
    expect(await pulls.keep()).toBeUndefined();
    expect(await pulls.load()).toBeFalse();
  });

  it('keeps pulls by itself before what changes much, and faces that are tried are one', async () => {
    const history = TestBed.inject(JobHistory);
    for (const reason of ['face', 'face', 'mend'] as const) history.beforeMuch(reason);
    await stable();
    expect(api.kept.map(({ pull }) => pull.reason)).toEqual(['face', 'mend']);
    store.acceptAll('gap-open');
    await stable();
    expect(api.kept.map(({ pull }) => pull.reason)).toEqual(['face', 'mend', 'mend']);
    expect(api.kept[2]?.job).toEqual(sample());
  });

  it('looks with fresh eyes, by key, and changes nothing', async () => {
    const looks = TestBed.inject(Looks);
    const screen = fixture.debugElement.injector.get(Screen);
    const surface = sheet().querySelector<SVGElement>('.surface')!;
    const job = store.job;
    for (const one of ['2', '3', '4', '5']) key(one);
    await stable();
    expect(surface.style.transform).toBe('rotate(180deg) scaleX(-1)');
    expect(surface.style.filter).toBe('invert(1) grayscale(1)');
    expect(sheet().querySelector('[data-handle]')).toBeNull();
    key('8');
    key('1');
    await stable();
    expect(surface.style.filter).toMatch(/^blur\([\d.]+px\)$/);
    key('8');
    key('6');
    await stable();
    expect(sheet().querySelectorAll('.bands').length).toBe(2);
    key('8');
    key('7');
    await stable();
    // Three letters about the first gap: A, V and A, each ten points wide.
    expect(store.view.gap).toEqual({ blockId: 'a', at: 1 });
    expect(sheet().querySelector('[data-testid="three-letters"]')?.getAttribute('d')).toContain('H30');
    expect(store.job).toBe(job);
    key('8');
    // A card that is as wide as 400 pixels makes true size, and is kept on this device.
    screen.calibrate(400);
    expect(screen.pxPerMm()).toBeCloseTo(400 / CARD_MM, 6);
    screen.trueSize();
    await stable();
    expect(table.componentInstance.percent()).toBe(Math.round(((400 / CARD_MM) * 25.4) / 0.96));
    looks.distanceMm.set(6000);
    screen.fromAfar();
    await stable();
    expect(table.componentInstance.percent()).toBe(Math.round(((400 / CARD_MM) * 25.4) / 9.6));
    expect(localStorage.length).toBe(1);
    screen.calibrate(undefined);
    expect(localStorage.length).toBe(0);
  });

  it('puts the sheets of the job in a row, level by what was chosen, and goes to one that is clicked', async () => {
    const { row } = TestBed.inject(Instead);
    const state = TestBed.inject(ProofState);
    store.apply((job) => updateBlock(job, 'a', (block) => ({ ...block, frame: { ...block.frame, yPt: 40 } })));
    state.row.set('top');
    await until(() => row().length === 1);
    await stable();
    expect([row()[0]?.shown.sheet.id, row()[0]?.yPt, row()[0]?.xPt]).toEqual(['two', 0, 636]);
    await until(() => sheet().querySelector('[data-sheet="two"]') !== null);
    state.row.set('baseline');
    await stable();
    // The fake engine sets every line at the same height.
    expect(row()[0]?.yPt).toBe(0);
    sheet()
      .querySelector('[data-sheet="two"]')
      ?.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    await until(() => row()[0]?.shown.sheet.id === 'one');
    expect([store.view.sheetId, row()[0]?.xPt]).toEqual(['two', -636]);
    state.row.set('off');
    await stable();
    expect(row()).toEqual([]);
  });

  it('says what distance does: angle and blur by geometry', () => {
    expect(angleSeen(72 / 25.4, 57.29)).toBeCloseTo(1, 2);
    // A minute of arc at 3438 mm is a millimetre, which is the width at half height.
    expect((blurOf(3437.75) * 2.355 * 25.4) / 72).toBeCloseTo(1, 3);
  });

  it('reads along the block at a pace that space slows, and stops at its end or when something else is done', async () => {
    const reading = fixture.debugElement.injector.get(ReadingCaret);
    key('9');
    expect(reading.on()).toBeTrue();
    expect(store.view.gap?.at).toBe(1);
    await until(() => store.view.gap?.at === 3);
    store.apply((job) => restyle(job, 'a', { trackingMilliem: 1 }));
    expect(reading.on()).toBeFalse();
    store.placeGap({ blockId: 'a', at: 5 });
    key('9');
    await until(() => !reading.on());
    expect(store.view.gap?.blockId).toBe('b');
  });

  it('walks what is still open across sheets, fixes it and says when the job is clean', async () => {
    const walk = fixture.debugElement.injector.get(OpenWalk);
    await until(() => walk.findings().length === 3);
    key('n');
    await stable();
    expect(TestBed.inject(ProofState).tab()).toBe('findings');
    expect(host().querySelector('[data-testid="verdict"]')?.textContent).toBe('3 findings');
    expect(store.view.gap?.blockId).toBe('a');
    key('n');
    key('n');
    await stable();
    expect([store.view.sheetId, store.view.gap?.blockId]).toEqual(['two', 'c']);
    key('\\');
    await stable();
    expect(store.view.sheetId).toBe('one');
    // Mended ones go, and the walk goes on from there.
    await press(fixture, 'Apply', host());
    await until(() => walk.findings().length === 2);
    key('n');
    await stable();
    expect(store.view.gap?.blockId).toBe('c');
    await press(fixture, 'Apply', host());
    await until(() => walk.findings().length === 1);
    walk.pass.set('fit');
    expect(walk.findings()).toEqual([]);
    walk.pass.set(undefined);
    key('n');
    await stable();
    await press(fixture, 'Apply', host());
    await until(() => walk.findings().length === 0);
    await stable();
    expect(host().querySelector('[data-testid="verdict"]')?.textContent).toBe('No findings.');
  });
});
