/** The instruments, each as the designer uses it: a control is used, and the job has changed. */
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type ProviderToken, signal } from '@angular/core';
import { type ShiftNumber, findBlock, isRide, riseOf, styleAt, withHand } from '@jentrix/core/job';
import { editWords } from '@jentrix/core/wording';
import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import { of } from 'rxjs';
import { ApiService } from '../../api/api.service';
import { named, pageProviders, press, until } from '../../ui/testing';
import { AllRecipes } from '../../settings/all-recipes';
import { BenchStore } from '../bench.store';
import { SaveService } from '../save.service';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { heardKey, allKeys } from '../keys';
import type { KeyContext } from '../pass';
import { ALL_PASSES } from '../passes';
import { Instead } from '../state/instead';
import { LetterPicks } from '../state/letter-picks';
import { PathStroke } from '../state/path-stroke';

describe('decks', () => {
  let engine: FakeEngine;
  let store: BenchStore;
  let fixture: ComponentFixture<unknown>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const block = () => findBlock(store.job!, 'a')!;
  const stable = async (): Promise<void> => {
    await settled();
    await fixture.whenStable();
  };
  const field = (label: string): HTMLInputElement => {
    const found = [...host().querySelectorAll('jx-value')].find((one) => one.querySelector('label')?.textContent.trim() === label)?.querySelector('input');
    if (!found) throw new Error(`There is no field “${label}”`);
    return found;
  };
  async function type(label: string, text: string): Promise<void> {
    const into = field(label);
    into.focus();
    into.value = text;
    into.dispatchEvent(new Event('input'));
    into.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    into.blur();
    await stable();
  }
  /** Ticks what a label names, or unticks it. */
  function check(within: HTMLElement, label: string): void {
    const found = [...within.querySelectorAll('label')].find((one) => one.textContent.trim() === label)?.querySelector('input');
    if (!found) throw new Error(`There is no “${label}”`);
    found.click();
  }
  async function open(pass: string): Promise<void> {
    const deck = await ALL_PASSES.find(({ id }) => id === pass)!.deck();
    store.showPass(pass);
    fixture = TestBed.createComponent(deck);
    Object.assign(host().style, { display: 'block', width: '1000px', height: '300px' });
    document.body.append(host());
    await stable();
  }

  beforeEach(async () => {
    engine = new FakeEngine();
    TestBed.configureTestingModule({
      providers: [
        ...pageProviders,
        ...benchProviders(engine, new FakePreferences()),
        { provide: SaveService, useValue: { jobId: 'j1', flush: () => Promise.resolve(true) } },
        { provide: AllRecipes, useValue: { recipes$: of([]), recipes: signal([]), find: () => undefined } },
        { provide: ApiService, useValue: { listPictures: () => of([]) } },
      ],
    });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    await settled();
  });
  afterEach(() => host().remove());

  it('Words: aligns, sizes, raises, grows and lists', async () => {
    await open('words');
    await press(fixture, 'Justified', host());
    expect(block().align).toBe('justified');
    await type('Size', '60');
    expect(block().style.sizePt).toBe(60);
    await type('Baseline', '3pt');
    expect(block().style.baselineShiftMilliem).toBe(50);
    await type('Horizontal scale', '90');
    expect(block().style.scaleX).toBe(0.9);
    await press(fixture, 'Bullets', host());
    expect(block().paragraph.list).toBe('bullet');
    await press(fixture, 'Fixed size', host());
    expect(block().grow).toBe('fixed');
    const language = host().querySelector<HTMLSelectElement>('select[aria-label="Language of this block"]')!;
    language.value = 'tr';
    language.dispatchEvent(new Event('change'));
    expect(block().language).toBe('tr');
    store.undo();
    store.undo();
    expect(block().grow).toBe('down');
  });

  it('Words: orders a block, and gives its settings to another one, also after another pass was up', async () => {
    const choose = async (name: string): Promise<void> => {
      await press(fixture, 'This block', host());
      await press(fixture, name);
    };
    await open('words');
    await choose('Bring to front');
    expect(store.sheet?.blocks.map(({ id }) => id)).toEqual(['b', 'a']);
    await choose('Send backward');
    expect(store.sheet?.blocks.map(({ id }) => id)).toEqual(['a', 'b']);
    await press(fixture, 'Centre', host());
    await choose('Copy its settings');
    fixture.destroy();
    store.selectBlock('b');
    await open('words');
    await choose('Paste settings');
    expect(findBlock(store.job!, 'b')).toEqual(jasmine.objectContaining({ align: 'centre', words: 'Two nights' }));
    store.undo();
    expect(findBlock(store.job!, 'b')?.align).toBe('left');
  });

  it('Words: a value that makes no sense is refused where it was typed', async () => {
    await open('words');
    await type('Baseline', 'high');
    expect(field('Baseline').getAttribute('aria-invalid')).toBe('true');
    expect(block().style.baselineShiftMilliem).toBe(0);
  });

  it('Tracking: presets, values, and word space that goes along while it is linked', async () => {
    await open('tracking');
    await press(fixture, '+20', host());
    expect(block().style).toEqual(jasmine.objectContaining({ trackingMilliem: 20, wordSpaceMilliem: 0 }));
    await type('Tracking', '-12');
    expect(block().style.trackingMilliem).toBe(-12);
    host().querySelector<HTMLInputElement>('.link input')?.click();
    await stable();
    await press(fixture, '+60', host());
    expect(block().style.wordSpaceMilliem).not.toBe(0);
    await until(() => host().querySelectorAll('.trial').length === 3);
  });

  it('Leading: by points and of the size, each key setting the block once', async () => {
    await open('leading');
    await press(fixture, 'Points', host());
    engine.sets.length = 0;
    await type('Leading', '50');
    expect(block().leading).toEqual({ kind: 'pt', pt: 50 });
    expect(engine.sets.map(({ blocks }) => blocks.map(({ id }) => id))).toEqual([['a']]);
    expect(engine.sets[0]?.lineGapsOf).toBe('a');
  });

  it('Leading: brings two baselines onto the two rules that were drawn', async () => {
    store.addRule({ xPt: 0, yPt: 200 }, { xPt: 200, yPt: 180 });
    store.addRule({ xPt: 0, yPt: 260 }, { xPt: 200, yPt: 240 });
    await open('leading');
    await press(fixture, 'Align to two rules', host());
    await until(() => block().rotationDeg !== 0);
    expect(block().rotationDeg).toBeCloseTo((Math.atan2(-20, 200) * 180) / Math.PI, 6);
    const { leading } = block();
    expect(leading.kind === 'pt' && leading.pt).toBeCloseTo(60 * Math.cos(Math.atan2(20, 200)), 6);
    store.undo();
    expect(block().rotationDeg).toBe(0);
  });

  it('Kerning: gives the white of a gap to its kind, to the same letters, and what is held to other gaps, each as one step', async () => {
    const use = (name: string): void => {
      const found = heardKey(allKeys(ALL_PASSES), new KeyboardEvent('keydown', { key: name }), 'bench', DEFAULT_PREFERENCES);
      found?.binding.run(
        { store, get: <T>(state: ProviderToken<T>) => TestBed.inject(state), gesture: 'g' } as unknown as KeyContext,
        new KeyboardEvent('keydown', { key: name }),
        found.which,
      );
    };
    const ats = (): number[] =>
      block()
        .hand.filter(({ milliem }) => milliem === 20)
        .map(({ at }) => at);
    store.apply((job) => withHand(withHand(job, 'a', 1, 3), 'a', 4, 3));
    await open('kerning');
    store.placeGap({ blockId: 'a', at: 1 });
    await until(() => [...host().querySelectorAll('button')].some((one) => one.textContent.trim() === 'Its kind'));
    await press(fixture, 'Its kind', host());
    await until(() => ats().length > 0);
    expect(ats()).toEqual([4]);
    store.undo();
    use('#');
    await until(() => ats().length > 0);
    expect(ats()).toEqual([4]);
    store.undo();
    expect(ats()).toEqual([]);
  });

  it('Kerning: shows the gap at the caret, takes a value typed elsewhere, and another source', async () => {
    await open('kerning');
    store.placeGap({ blockId: 'a', at: 2 });
    await stable();
    expect(host().querySelector('[data-testid="total"]')?.textContent.trim()).toBe('0');
    await until(() => host().querySelector('jx-gap-ribbon') !== null);
    expect(host().querySelectorAll('jx-gap-ribbon .gap').length).toBe(5);
    host()
      .querySelector('jx-gap-ribbon [data-gap="4"]')
      ?.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    await stable();
    expect(store.view.gap).toEqual({ blockId: 'a', at: 4 });
    expect(host().querySelector('.caption')?.textContent).toContain('TA: 10 too open. Apply: −10.');
    // One quantity, whoever says it.
    expect(host().querySelector('jx-gap-ribbon .mark.current text')?.textContent).toBe('+10');
    expect(host().querySelector('[data-testid="should"]')?.textContent.trim()).toBe('\u221210');
    store.takeProposal();
    expect(block().hand).toEqual([{ at: 4, milliem: -10 }]);
    await stable();
    await until(() => host().querySelector('.caption')?.textContent.includes('TA is on target.') === true);
    expect(host().querySelectorAll('jx-gap-ribbon circle').length).toBe(1);
    await press(fixture, 'By shape', host());
    expect(block().style.kerning).toBe('shape');
  });

  it('Face: is filtered by kind and favourites, walked by arrows with the sheet following, and tells what a face does before it is taken', async () => {
    const anatomy = (kind: 'serif' | 'sans', display = false) => ({
      kind,
      stem: 0.1,
      contrast: 0.5,
      width: 1,
      xHeight: 0.5,
      capHeight: 0.7,
      condensed: false,
      display,
    });
    const face = (id: string, of: ReturnType<typeof anatomy>, favourite = false) => ({
      ...{ id, family: `Quarry ${id}`, style: 'Regular', licence: '', axes: [], weight: 400, italic: false },
      ...{ slopeDeg: 0, features: [], source: 'shipped' as const, favourite, anatomy: of },
    });
    engine.subject.next({ items: [face('a', anatomy('serif')), face('b', anatomy('sans', true)), face('c', anatomy('sans'), true)], standInId: 'a' });
    await open('face');
    const shown = (): string[] => [...host().querySelectorAll<HTMLElement>('.candidate')].map(({ dataset }) => dataset['face'] ?? '');
    expect(shown()).toEqual(['c', 'a', 'b']);
    await press(fixture, 'Display', host());
    expect(shown()).toEqual(['b']);
    await press(fixture, 'Display', host());
    await press(fixture, '★ Favourites', host());
    expect(shown()).toEqual(['c']);
    await press(fixture, '★ Favourites', host());
    const before = store.job;
    const instead = TestBed.inject(Instead);
    const key = (name: string): boolean | undefined =>
      document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
    host().querySelector<HTMLElement>('[type=search]')?.focus();
    key('ArrowDown');
    await until(() => host().querySelector('[data-testid=effect]')?.textContent.includes('same line breaks') ?? false);
    key('ArrowDown');
    await until(() => instead.shown()?.blocks[0]?.block.style.faceId === 'a');
    expect(store.job).toBe(before);
    key('Escape');
    expect(instead.shown()).toBeUndefined();
    (document.activeElement as HTMLElement).click();
    await stable();
    expect(block().style.faceId).toBe('a');
    expect(instead.shown()).toBeUndefined();
  });

  it('Face: says that a face is missing, and lists what it can do', async () => {
    await open('face');
    expect(host().textContent).toContain('is missing');
    expect(named('Type case', host()).getAttribute('href')).toBe('/type-case');
  });

  it('Shift: letters are picked one, several and by kind, and each keeps what is its own', async () => {
    const picks = TestBed.inject(LetterPicks);
    const picked = (): string => picks.value.map(({ start }) => start).join(' ');
    const styles = (key: ShiftNumber): number[] => [0, 1, 2, 3, 4, 5].map((at) => styleAt(block(), at)[key]);
    await open('shift');
    expect(host().querySelector('[data-testid="picked"]')?.textContent).toBe('Nothing picked');
    picks.pick(1);
    picks.pick(3, 'also');
    await stable();
    expect(host().querySelector('[data-testid="picked"]')?.textContent).toBe('2 picked: V T');
    await type('Raise', '120');
    expect(styles('baselineShiftMilliem')).toEqual([0, 120, 0, 120, 0, 0]);
    await type('Height', '150');
    expect(styles('scaleY')).toEqual([1, 1.5, 1, 1.5, 1, 1]);
    store.undo();
    await stable();
    expect(styles('scaleY')).toEqual([1, 1, 1, 1, 1, 1]);
    // Those that stand between, and one let go again.
    picks.pick(1);
    picks.pick(4, 'through');
    expect(picked()).toBe('1 2 3 4');
    picks.pick(2, 'also');
    expect(picked()).toBe('1 3 4');
    await press(fixture, 'Capitals', host());
    expect(picked()).toBe('0 1 2 3 4 5');
    picks.pick(0);
    await press(fixture, 'Same letters', host());
    expect(picked()).toBe('0 2 4');
    await stable();
    await type('Rotate', '15°');
    expect(styles('turnDeg')).toEqual([15, 0, 15, 0, 15, 0]);
    await press(fixture, 'Rotate', host());
    await stable();
    expect(styles('turnDeg')).toEqual([0, 0, 0, 0, 0, 0]);
    picks.clear();
    await stable();
    await press(fixture, 'Reset all 2', host());
    expect(block().runs).toEqual([]);
    // Other words: what was picked is no longer meant.
    picks.pick(5);
    store.apply((job) => editWords(job, 'a', [{ start: 0, end: 6, insert: 'TAR' }]));
    expect(picked()).toBe('');
  });

  it('Shift: picked letters are shown as the font’s own small letters and as made ones, to be chosen by eye', async () => {
    const picks = TestBed.inject(LetterPicks);
    await open('shift');
    picks.pick(3);
    await stable();
    await until(() => host().querySelectorAll('[data-form]').length === 2);
    expect(host().querySelectorAll('[data-form] svg').length).toBe(2);
    host().querySelector<HTMLButtonElement>('[data-form="made"]')!.click();
    await stable();
    expect([styleAt(block(), 3).baselineShiftMilliem, styleAt(block(), 3).scaleY, styleAt(block(), 2).scaleY]).toEqual([350, 0.6, 1]);
    store.undo();
    await press(fixture, 'Inferior', host());
    await until(() => host().querySelector('[data-form="made"]')?.getAttribute('aria-label')?.startsWith('Set inferior') === true);
    host().querySelector<HTMLButtonElement>('[data-form="font"]')!.click();
    await stable();
    expect(styleAt(block(), 3).features).toEqual({ sups: 1 });
    expect(styleAt(block(), 3).scaleY).toBe(1);
  });

  it('Shift: sets the path, how words stand on it, and takes it off again', async () => {
    await open('shift');
    await press(fixture, 'Path', host());
    await stable();
    await press(fixture, 'Arc', host());
    await stable();
    expect(block().path.kind).toBe('arc');
    await type('Rise', '-10mm');
    const arc = block().path;
    expect(arc.kind === 'arc' && riseOf(arc)).toBeCloseTo(-28.35, 1);
    await type('Position', '30');
    await press(fixture, 'End', host());
    check(host(), 'Below');
    check(host(), 'Even gaps');
    await stable();
    expect(block().path).toEqual(jasmine.objectContaining({ hold: 'end', side: 'below', kerned: false }));
    expect(isRide(block().path) && block().path).toEqual(jasmine.objectContaining({ atShare: 0.3 }));
    await press(fixture, 'Wave', host());
    await stable();
    // What was said of how words stand is kept.
    expect(block().path).toEqual(jasmine.objectContaining({ kind: 'wave', hold: 'end', atShare: 0.3 }));
    await press(fixture, 'Stacked', host());
    await stable();
    await press(fixture, 'Left', host());
    await stable();
    expect(block().path).toEqual({ kind: 'stacked', columns: 'leftwards' });
    await press(fixture, 'Straight', host());
    await stable();
    expect(block().path).toEqual({ kind: 'straight' });
    for (let i = 0; i < 8; i++) store.undo();
    expect(block().path).toEqual(jasmine.objectContaining({ kind: 'arc', hold: 'centre' }));
    store.undo();
    store.undo();
    expect(block().path).toEqual({ kind: 'straight' });
  });

  it('Shift: draws a path by places, brings one in from an SVG, and says why one can’t be', async () => {
    await open('shift');
    await press(fixture, 'Path', host());
    await stable();
    await press(fixture, 'Drawn', host());
    await stable();
    await press(fixture, 'Draw on sheet', host());
    await stable();
    expect(store.view.drawing).toBe('path');
    const stroke = TestBed.inject(PathStroke);
    for (const [xPt, yPt] of [
      [0, 0],
      [0.1, 0.1],
      [50, -20],
      [90, 10],
    ] as const)
      stroke.add({ xPt, yPt });
    stroke.finish();
    await stable();
    expect(store.view.drawing).toBeUndefined();
    const drawn = block().path;
    expect(drawn.kind === 'drawn' && drawn.curves.map(({ end }) => end.xPt)).toEqual([50, 90]);
    const give = async (text: string): Promise<void> => {
      const input = host().querySelector<HTMLInputElement>('jx-path-panel input[type="file"]')!;
      const files = new DataTransfer();
      files.items.add(new File([text], 'path.svg'));
      input.files = files.files;
      input.dispatchEvent(new Event('change'));
      await until(() => input.value === '');
      await stable();
    };
    await give('<svg><path d="M10 10L60 10L60 90"/></svg>');
    const read = block().path;
    // It begins where the drawn one began.
    expect(read.kind === 'drawn' && [read.start, ...read.curves.map(({ end }) => end)]).toEqual([
      { xPt: 0, yPt: 0 },
      { xPt: 50, yPt: 0 },
      { xPt: 50, yPt: 80 },
    ]);
    await give('<svg></svg>');
    expect(host().textContent).toContain('It contains no path.');
    expect(block().path).toEqual(read);
  });

  it('Shift: larger ends as one setting, and the look of picked letters', async () => {
    await open('shift');
    await press(fixture, 'Ends', host());
    await stable();
    check(host(), 'End letters');
    await stable();
    await type('Size', '140');
    await press(fixture, 'Lines', host());
    await press(fixture, 'Top', host());
    await stable();
    expect(block().ends).toEqual({ of: 'lines', which: 'both', ratio: 1.4, align: 'top' });
    check(host(), 'End letters');
    await stable();
    expect(block().ends).toBeNull();
    TestBed.inject(LetterPicks).pick(1);
    await stable();
    await type('Size', '80');
    expect([styleAt(block(), 1).scaleX, styleAt(block(), 1).scaleY, styleAt(block(), 0).scaleX]).toEqual([0.8, 0.8, 1]);
    await press(fixture, 'Style', host());
    await stable();
    await type('Opacity', '40');
    await type('Outline', '30');
    expect(styleAt(block(), 1)).toEqual(jasmine.objectContaining({ opacity: 0.4, outline: jasmine.objectContaining({ milliem: 30 }) }));
    expect(styleAt(block(), 0).outline).toBeNull();
    await type('Outline', '0');
    expect(styleAt(block(), 1).outline).toBeNull();
  });

  it('Shift: the arrows pick and raise, and keys turn and move; undo takes one held key back', async () => {
    const picks = TestBed.inject(LetterPicks);
    await open('shift');
    const keys = allKeys(ALL_PASSES);
    const press = (key: string, init: KeyboardEventInit = {}, gesture = key): void => {
      const heard = heardKey(keys, new KeyboardEvent('keydown', { key, ...init }), 'bench', DEFAULT_PREFERENCES)!;
      const context = { store, preferences: DEFAULT_PREFERENCES, gesture, get: <T>(state: ProviderToken<T>) => TestBed.inject(state) } as KeyContext;
      heard.binding.run(context, new KeyboardEvent('keydown', { key, ...init }), heard.which);
    };
    press('ArrowRight');
    press('ArrowRight');
    press('ArrowRight', { shiftKey: true });
    expect(picks.value.map(({ start }) => start)).toEqual([1, 2]);
    press('ArrowUp');
    press('ArrowUp');
    press('E', { shiftKey: true });
    press('h');
    const style = styleAt(block(), 2);
    expect([style.baselineShiftMilliem, style.turnDeg, style.moveMilliem]).toEqual([4, 15, 2]);
    expect(styleAt(block(), 3).turnDeg).toBe(0);
    store.undo();
    store.undo();
    store.undo();
    expect(styleAt(block(), 2).baselineShiftMilliem).toBe(0);
    press('Escape');
    expect(picks.value).toEqual([]);
    // In other passes they walk the gaps as ever, and nothing is done to letters that are not shown.
    picks.pick(2);
    store.showPass('kerning');
    const before = store.job;
    press('e');
    press('a');
    expect(store.job).toBe(before);
    expect(picks.value.length).toBe(1);
    press('ArrowRight');
    expect(store.view.gap).toEqual({ blockId: 'a', at: 1 });
  });
});
