import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { findBlock } from '@jentrix/core/job';
import { firstValueFrom } from 'rxjs';
import { pageProviders, press } from '../../ui/testing';
import { ToastService } from '../../ui/toasts';
import { BenchStore } from '../bench.store';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { FirstCutPanel } from './first-cut';
import { FirstCutState } from './first-cut.state';

describe('first cut', () => {
  let engine: FakeEngine;
  let store: BenchStore;
  let state: FirstCutState;
  let fixture: ComponentFixture<FirstCutPanel>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const tracking = (): number[] => store.job!.sheets.flatMap(({ blocks }) => blocks.map(({ style }) => style.trackingMilliem));
  const isOpen = (): Promise<boolean> => firstValueFrom(state.open$);
  const boxes = (): HTMLInputElement[] => [...host().querySelectorAll<HTMLInputElement>('input[type="checkbox"]')];
  async function done(): Promise<void> {
    await settled();
    await fixture.whenStable();
  }

  beforeEach(async () => {
    engine = new FakeEngine();
    TestBed.configureTestingModule({ providers: [...pageProviders, ...benchProviders(engine, new FakePreferences())] });
    store = TestBed.inject(BenchStore);
    state = TestBed.inject(FirstCutState);
    store.open(sample());
    await settled();
    fixture = TestBed.createComponent(FirstCutPanel);
    await state.start();
    await done();
  });

  it('is one step of undo, whatever is given back and kept again', async () => {
    expect(tracking()).toEqual([-5, -5, -5]);
    expect(boxes().map(({ checked }) => checked)).toEqual([true, true, true]);
    boxes()[1]!.click();
    await done();
    expect(tracking()).toEqual([-5, 0, -5]);
    expect(host().textContent).toContain('2 of 3 kept');
    // A key let go of ends gestures, and makes no second step.
    store.endGesture();
    boxes()[1]!.click();
    await done();
    expect(tracking()).toEqual([-5, -5, -5]);
    store.undo();
    await done();
    expect(tracking()).toEqual([0, 0, 0]);
    expect(await isOpen()).toBeFalse();
    store.redo();
    expect(tracking()).toEqual([-5, -5, -5]);
  });

  it('gives all back, or all of a pass, and says before and after', async () => {
    expect(host().querySelector('[data-testid="cut-evenness"]')?.textContent).toBe('60');
    expect(host().querySelector('[data-testid="cut-findings"]')?.textContent).toBe('2');
    await press(fixture, 'Revert all', host());
    await done();
    expect(tracking()).toEqual([0, 0, 0]);
    await press(fixture, 'Keep all', host());
    await done();
    expect(tracking()).toEqual([-5, -5, -5]);
  });

  it('shows the block of an item on its sheet', async () => {
    const rows = [...host().querySelectorAll<HTMLButtonElement>('.row')];
    expect(rows.map((row) => row.textContent.replace(/\s+/g, ' ').trim())[2]).toContain('Vega · Sheet two');
    rows[2]!.click();
    await done();
    expect([store.view.sheetId, store.view.blockId]).toEqual(['two', 'c']);
    expect(await isOpen()).toBeTrue();
  });

  it('has been read once something else is edited, another pass comes up, or another job', async () => {
    store.applyStyle({ sizePt: 20 });
    expect(await isOpen()).toBeFalse();
    expect(findBlock(store.job!, 'a')?.style.trackingMilliem).toBe(-5);
    await state.start();
    store.showPass('words');
    expect(await isOpen()).toBeFalse();
    await state.start();
    store.open(sample());
    expect(await isOpen()).toBeFalse();
    expect(tracking()).toEqual([0, 0, 0]);
  });

  it('changes nothing that was edited while it was found out, and tells when it can’t be done', async () => {
    store.open(sample());
    const round = state.start();
    store.applyStyle({ sizePt: 33 });
    await round;
    expect(tracking()).toEqual([0, 0, 0]);
    expect(await isOpen()).toBeFalse();
    spyOn(console, 'error');
    engine.fails = true;
    await state.start();
    expect(await isOpen()).toBeFalse();
    expect((await firstValueFrom(TestBed.inject(ToastService).toasts$)).map(({ message }) => message)).toEqual([jasmine.stringContaining('failed')]);
  });
});
