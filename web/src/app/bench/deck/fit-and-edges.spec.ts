/** The instruments for fits, breaks and edges, each as the designer uses it. */
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { USUAL_EDGES, findBlock, newFit, updateBlock, withBlockSettings, withSheet } from '@jentrix/core/job';
import { editWords } from '@jentrix/core/wording';
import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import type { ProviderToken } from '@angular/core';
import { pageProviders, press, until } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { heardKey, allKeys } from '../keys';
import type { KeyContext } from '../pass';
import { ALL_PASSES } from '../passes';
import { FadedMarks } from '../state/faded-marks';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { Instead } from '../state/instead';
import { FitState } from './fit/fit.state';

describe('decks of fits and edges', () => {
  let store: BenchStore;
  let fixture: ComponentFixture<unknown>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const block = () => findBlock(store.job!, 'a')!;
  const stable = async (): Promise<void> => {
    await settled();
    await fixture.whenStable();
  };
  async function type(label: string, text: string): Promise<void> {
    const into = [...host().querySelectorAll('jx-value')].find((one) => one.querySelector('label')?.textContent.trim() === label)?.querySelector('input');
    if (!into) throw new Error(`There is no field “${label}”`);
    into.focus();
    into.value = text;
    into.dispatchEvent(new Event('input'));
    into.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    into.blur();
    await stable();
  }
  async function choose(label: string, value: string): Promise<void> {
    const select = [...host().querySelectorAll('select')].find(
      (one) => one.getAttribute('aria-label') === label || one.closest('label')?.textContent.includes(label),
    );
    if (!select) throw new Error(`There is no “${label}”`);
    select.value = value;
    select.dispatchEvent(new Event('change'));
    await stable();
  }
  function check(label: string): void {
    const found = [...host().querySelectorAll('label')].find((one) => one.textContent.trim() === label)?.querySelector('input');
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
  function key(name: string, code = ''): void {
    const event = new KeyboardEvent('keydown', { key: name, code });
    const binding = heardKey(allKeys(ALL_PASSES), event, 'bench', DEFAULT_PREFERENCES);
    const context = { store, get: <T>(state: ProviderToken<T>) => TestBed.inject(state), gesture: 'g' } as unknown as KeyContext;
    binding?.binding.run(context, event, binding.which);
  }

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [...pageProviders, ...benchProviders(new FakeEngine(), new FakePreferences())] });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    await settled();
  });
  afterEach(() => host().remove());

  it('Fit: to the frame, to a width, to another block; levers, ink, height; and lets go into plain values', async () => {
    await open('fit');
    await press(fixture, 'Fit to frame', host());
    expect(block().fit).toEqual(newFit());
    await choose('Fit the lines', 'pt');
    await type('Width', '30mm');
    expect(block().fit?.to).toEqual({ kind: 'pt', pt: jasmine.any(Number) });
    expect((block().fit?.to as { pt: number }).pt).toBeCloseTo((30 * 72) / 25.4, 4);
    await type('Letter space weight', '40');
    await type('Size max', '150');
    expect(block().fit?.by.letters.share).toBe(0.4);
    expect(block().fit?.by.size.most).toBe(1.5);
    await press(fixture, 'Word space', host());
    expect(Object.values(block().fit?.by ?? {}).map(({ share }) => share)).toEqual([0, 0, 1, 0]);
    expect(block().fit?.by.size.most).toBe(1.5);
    await press(fixture, 'Side bearings', host());
    await type('Overshoot', '50');
    check('Even spacing between lines');
    check('Sizes to 0.1 pt');
    check('Fit height by leading');
    await stable();
    expect(block().fit).toEqual(jasmine.objectContaining({ ink: false, overshoot: 0.5, even: true, steps: true, height: { kind: 'frame' } }));
    await press(fixture, 'Flat', host());
    expect(block().fit?.even).toBe('flat');
    await press(fixture, 'Auto', host());
    expect(block().fit?.even).toBe(true);
    await choose('Fit the lines', 'block');
    expect(block().fit?.to).toEqual({ kind: 'block', id: 'b', line: null });
    await press(fixture, 'Release', host());
    await stable();
    expect(block().fit).toBeNull();
    expect(block().style.sizePt).toBe(77);
    store.undo();
    expect(block().fit?.to?.kind).toBe('block');
  });

  it('Fit: leads lines apart that it brings together, as one step, unless told not to', async () => {
    const led = () => block().leading.kind === 'pt' && (block().leading as { pt: number }).pt === 333;
    await open('fit');
    await press(fixture, 'Fit to frame', host());
    await stable();
    expect(led()).toBeFalse();
    store.undo();
    store.apply((job) => editWords(job, 'a', [{ start: 1, end: 1, insert: '\n' }]));
    key('%');
    expect(block().fit).toEqual(newFit());
    await until(led);
    store.undo();
    expect([block().fit, led()]).toEqual([null, false]);
    await stable();
    check('Keep lines apart');
    await press(fixture, 'Fit to frame', host());
    await stable();
    expect([block().fit, led()]).toEqual([newFit(), false]);
  });

  it('Fit: between guides where there are two, and nothing of a locked block', async () => {
    store.apply((job) =>
      withSheet(job, 'one', {
        guides: [
          { axis: 'x', atPt: 300 },
          { axis: 'x', atPt: 100 },
        ],
      }),
    );
    await open('fit');
    await choose('Fit the lines', 'between');
    expect(block().fit?.to).toEqual({ kind: 'between', leftPt: 100, rightPt: 300 });
    store.apply((job) => withBlockSettings(job, 'a', { fit: null, locked: true }));
    key('%');
    expect(block().fit).toBeNull();
  });

  it('Fit: ways to break as pictures, alignment and what justified lines give, a short last line taken up by key and given back', async () => {
    await open('fit');
    await press(fixture, 'Breaks', host());
    await choose('Line breaks', 'even');
    expect(block().breaking.way).toBe('even');
    await press(fixture, 'Narrowing', host());
    expect(block().breaking).toEqual({ way: 'even', shape: 'narrowing' });
    await choose('Align', 'justified');
    await type('Letter space range', '20');
    await type('Letter width range', '1.5');
    check('Justify last line');
    expect(block().justify).toEqual({ lettersMilliem: 20, width: 0.015, last: 'full' });
    await until(() => TestBed.inject(FitState).shortLastLines().length === 1);
    await until(() => host().querySelectorAll('jx-breaks-pictures .way').length > 0);
    // What is pointed at is shown on the table, until it is left or the words change.
    const { shown } = TestBed.inject(Instead);
    const way = (): Element | null => host().querySelector('jx-breaks-pictures .way');
    // A picture that was just drawn anew is another.
    await until(() => {
      way()?.dispatchEvent(new PointerEvent('pointerenter'));
      return shown() !== undefined;
    });
    expect(shown()?.blocks.map((one) => [one.block.id, one.block.breaking.shape])).toEqual([
      ['a', 'even'],
      ['b', 'even'],
    ]);
    way()?.dispatchEvent(new PointerEvent('pointerleave'));
    expect(shown()).toBeUndefined();
    way()?.dispatchEvent(new FocusEvent('focus'));
    expect(shown()).toBeDefined();
    key('=');
    await stable();
    expect(block().tightened).toEqual([{ start: 0, end: 3, milliem: -8 }]);
    expect(shown()).toBeUndefined();
    expect(host().querySelector('.there')?.textContent).toContain('nights of c');
    expect(host().querySelector('[data-testid="tightened"]')?.textContent).toContain('AVA');
    await press(fixture, 'Reset', host());
    expect(block().tightened).toEqual([]);
    store.apply((job) => updateBlock(job, 'a', (one) => ({ ...one, words: 'two nights' })));
    store.apply((job) => updateBlock(job, 'a', (one) => ({ ...one, words: 'telescope nights' })));
    await stable();
    await press(fixture, 'Hyphenate', host());
    await until(() => block().words.includes('\u00ad'));
    await stable();
    await press(fixture, 'Don’t hyphenate', host());
    expect(block().words).toBe('telescope nights');
    store.apply((job) => updateBlock(job, 'a', (one) => ({ ...one, words: 'two nights' })));
    store.placeGap({ blockId: 'a', at: 3 });
    key('_');
    expect(block().words).toBe('two\u00a0nights');
    key('_');
    expect(block().words).toBe('two nights');
  });

  it('Edges: by what is seen, strength and marks by kind, indents by hand and none, centring, marks faded while a key is held', async () => {
    await open('edges');
    check('Optical edges');
    await stable();
    expect(block().edges).toEqual(USUAL_EDGES);
    await type('Alignment', '50');
    await type('Dashes', '25');
    expect(block().edges).toEqual({ hang: { ...USUAL_EDGES.hang, dashes: 0.25 }, optical: 0.5 });
    expect(host().querySelectorAll('.pictures svg').length).toBe(2);
    await type('Manual offset of “AVATAR”, mm', '2');
    expect(block().lineIndents[0]?.byPt).toBeCloseTo(5.669, 2);
    await press(fixture, 'No manual offset', host());
    expect(block().lineIndents).toEqual([]);
    const faded = TestBed.inject(FadedMarks);
    key('`', 'Backquote');
    expect(faded.faded()).toBeTrue();
    dispatchEvent(new KeyboardEvent('keyup', { key: '`' }));
    expect(faded.faded()).toBeFalse();
    await press(fixture, 'Draw a box', host());
    expect(store.view.drawing).toBe('box');
    key('|');
    expect(block().edges).toBeNull();
  });
});
