import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { BehaviorSubject } from 'rxjs';
import { ToastService } from '../../ui/toasts';
import { named, pageProviders, press, signalOf } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { SaveService, type SaveState } from '../save.service';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { Masthead } from './masthead';
import { signal } from '@angular/core';

describe('masthead', () => {
  let store: BenchStore;
  let fixture: ComponentFixture<Masthead>;
  let state: BehaviorSubject<SaveState>;
  let toasts: readonly { message: string }[];
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const stable = async (): Promise<void> => {
    await settled();
    await fixture.whenStable();
  };

  beforeEach(async () => {
    state = new BehaviorSubject<SaveState>({ kind: 'saved' });
    TestBed.configureTestingModule({
      providers: [
        ...pageProviders,
        ...benchProviders(new FakeEngine(), new FakePreferences()),
        { provide: SaveService, useValue: { saved: signalOf(state), others: signal([]), jobId: 'j1', flush: () => Promise.resolve(true) } },
      ],
    });
    store = TestBed.inject(BenchStore);
    TestBed.inject(ToastService).toasts$.subscribe((all) => (toasts = all));
    store.open(sample());
    fixture = TestBed.createComponent(Masthead);
    document.body.append(host());
    await stable();
  });
  afterEach(() => host().remove());

  it('names the job, and takes another name with Enter; neither an empty one nor one that Escape takes back', async () => {
    const title = host().querySelector<HTMLInputElement>('.title')!;
    expect(title.value).toBe('Store');
    title.value = '  Perseids ';
    title.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await stable();
    expect(store.job?.title).toBe('Perseids');
    expect(title.value).toBe('Perseids');
    title.value = '   ';
    title.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect([store.job?.title, title.value]).toEqual(['Perseids', 'Perseids']);
    expect(toasts.at(-1)?.message).toContain('needs a name');
    title.value = 'Half';
    const escape = new KeyboardEvent('keydown', { key: 'Escape', cancelable: true });
    title.dispatchEvent(escape);
    title.dispatchEvent(new Event('blur'));
    expect([store.job?.title, title.value, escape.defaultPrevented]).toEqual(['Perseids', 'Perseids', true]);
  });

  it('says where the work stands with the server', async () => {
    const said = (): string => host().querySelector('.state')!.textContent;
    expect(said()).toBe('Saved');
    state.next({ kind: 'offline' });
    await stable();
    expect(said()).toContain('kept in this browser');
  });

  it('goes back and forth', async () => {
    const [undo, redo] = [named('Undo', host()) as HTMLButtonElement, named('Redo', host()) as HTMLButtonElement];
    expect([undo.disabled, redo.disabled]).toEqual([true, true]);
    store.applyStyle({ sizePt: 20 });
    await stable();
    expect([undo.disabled, redo.disabled]).toEqual([false, true]);
    undo.click();
    await stable();
    expect(store.block?.style.sizePt).toBe(48);
    expect([undo.disabled, redo.disabled]).toEqual([true, false]);
  });

  it('shows, adds, names, copies and takes away sheets', async () => {
    const numbers = (): string[] => [...host().querySelectorAll('.sheets .sheet > button')].map(({ textContent }) => textContent.trim().split(/\s/)[0] ?? '');
    expect(numbers()).toEqual(['1', '2']);
    host().querySelectorAll<HTMLElement>('.sheets .sheet > button')[1]?.click();
    await stable();
    expect(store.view.sheetId).toBe('two');
    await press(fixture, 'Add a sheet', host());
    // Sizes are shown in their proportions.
    const pictures = [...document.querySelectorAll<HTMLElement>('.presets jx-size-picture')].map(({ style }) => parseInt(style.width) / parseInt(style.height));
    expect(pictures.some((ratio) => ratio === 1)).toBeTrue();
    expect(pictures.some((ratio) => ratio > 1.6 && ratio < 1.95)).toBeTrue();
    await press(fixture, 'Like this one');
    await stable();
    expect(numbers().length).toBe(3);
    expect(store.sheet?.widthPt).toBe(600);
    await press(fixture, 'This sheet', host());
    const name = named('Name of the sheet') as HTMLInputElement;
    name.value = 'Back';
    name.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect(store.sheet?.name).toBe('Back');
    await press(fixture, 'Delete sheet');
    await stable();
    expect(numbers().length).toBe(2);
    expect(toasts.at(-1)?.message).toContain('Deleted the sheet');
  });
});
