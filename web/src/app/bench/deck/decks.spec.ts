/** The instruments, each as the designer uses it: a control is used, and the job has changed. */
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { findBlock } from '@jentrix/core/job';
import { of } from 'rxjs';
import { ApiService } from '../../api/api.service';
import { named, pageProviders, press, until } from '../../ui/testing';
import { RecipesService } from '../../ui/recipes.service';
import { BenchStore } from '../bench.store';
import { SaveService } from '../save.service';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { ALL_PASSES } from '../passes';

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
        { provide: RecipesService, useValue: { recipes$: of([]), find: () => undefined } },
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
    await press(fixture, 'justified', host());
    expect(block().align).toBe('justified');
    await type('size', '60');
    expect(block().style.sizePt).toBe(60);
    await type('baseline', '3pt');
    expect(block().style.baselineShiftMilliem).toBe(50);
    await type('horizontal scale', '90');
    expect(block().style.scaleX).toBe(0.9);
    await press(fixture, 'bullet', host());
    expect(block().paragraph.list).toBe('bullet');
    await press(fixture, 'not at all', host());
    expect(block().grow).toBe('fixed');
    const language = host().querySelector<HTMLSelectElement>('select[aria-label="Language of this block"]')!;
    language.value = 'tr';
    language.dispatchEvent(new Event('change'));
    expect(block().language).toBe('tr');
    store.undo();
    store.undo();
    expect(block().grow).toBe('down');
  });

  it('Words: a value that makes no sense is refused where it was typed', async () => {
    await open('words');
    await type('baseline', 'high');
    expect(field('baseline').getAttribute('aria-invalid')).toBe('true');
    expect(block().style.baselineShiftMilliem).toBe(0);
  });

  it('Tracking: presets, values, and word space that goes along while it is linked', async () => {
    await open('tracking');
    await press(fixture, '+20', host());
    expect(block().style).toEqual(jasmine.objectContaining({ trackingMilliem: 20, wordSpaceMilliem: 0 }));
    await type('tracking', '-12');
    expect(block().style.trackingMilliem).toBe(-12);
    host().querySelector<HTMLInputElement>('.link input')?.click();
    await stable();
    await press(fixture, '+60', host());
    expect(block().style.wordSpaceMilliem).not.toBe(0);
    await until(() => host().querySelectorAll('.trial').length === 3);
  });

  it('Leading: by points and of the size, each key setting the block once', async () => {
    await open('leading');
    await press(fixture, 'points', host());
    engine.sets.length = 0;
    await type('leading', '50');
    expect(block().leading).toEqual({ kind: 'pt', pt: 50 });
    expect(engine.sets.map(({ blocks }) => blocks.map(({ id }) => id))).toEqual([['a']]);
    expect(engine.sets[0]?.lineGapsOf).toBe('a');
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
    expect(host().querySelector('.caption')?.textContent).toContain('TA is 10 more open than it should be: taking the proposal closes 10.');
    // One quantity, whoever says it.
    expect(host().querySelector('jx-gap-ribbon .mark.current text')?.textContent).toBe('+10');
    expect(host().querySelector('[data-testid="should"]')?.textContent.trim()).toBe('\u221210');
    store.takeProposal();
    expect(block().hand).toEqual([{ at: 4, milliem: -10 }]);
    await stable();
    await until(() => host().querySelector('.caption')?.textContent.includes('TA is where it should be.') === true);
    expect(host().querySelectorAll('jx-gap-ribbon circle').length).toBe(1);
    await press(fixture, 'by shape', host());
    expect(block().style.kerning).toBe('shape');
  });

  it('Face: says that a face is missing, and lists what it can do', async () => {
    await open('face');
    expect(host().textContent).toContain('isn’t here');
    expect(named('Type case', host()).getAttribute('href')).toBe('/type-case');
  });
});
