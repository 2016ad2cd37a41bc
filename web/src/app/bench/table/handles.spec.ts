import { Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { findBlock, isRide, newPath, pathPlaces, styleAt, withBlockSettings } from '@jentrix/core/job';
import { turnedPoint } from '@jentrix/core/placing';
import { pageProviders } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { LetterPicks } from '../state/letter-picks';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { FrameHandles } from './frame-handles';
import { LetterHandles } from './letter-handles';
import { LineHandles } from './line-handles';
import { PathHandles } from './path-handles';

@Component({
  imports: [FrameHandles, LetterHandles, LineHandles, PathHandles],
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
    </svg>
  `,
})
class Host {
  readonly store = inject(BenchStore);
  readonly setting = toSignal(this.store.setting$);
}

describe('handles on the sheet', () => {
  let store: BenchStore;
  let fixture: ComponentFixture<Host>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const block = () => findBlock(store.job!, 'a')!;
  const stable = async (): Promise<void> => {
    await settled();
    await fixture.whenStable();
  };
  /** Drags what a selector finds, by pixels, which are points here. */
  async function drag(selector: string, x: number, y: number, more: PointerEventInit = {}): Promise<void> {
    const handle = host().querySelector(selector);
    if (!handle) throw new Error(`There is no ${selector}`);
    const taker = handle.closest('g[data-handle="frame"], g[jxLines], g[jxPath], g[jxLetters]') as SVGGElement;
    taker.setPointerCapture = () => undefined;
    taker.releasePointerCapture = () => undefined;
    const { left, top } = handle.getBoundingClientRect();
    const send = (type: string, dx: number, dy: number): unknown =>
      handle.dispatchEvent(
        new PointerEvent(type, { bubbles: true, cancelable: true, button: 0, pointerId: 3, clientX: left + dx, clientY: top + dy, ...more }),
      );
    send('pointerdown', 0, 0);
    send('pointermove', x / 2, y / 2);
    send('pointermove', x, y);
    await stable();
    send('pointerup', x, y);
    await stable();
  }

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [...pageProviders, ...benchProviders(new FakeEngine(), new FakePreferences())] });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    store.showPass('words');
    fixture = TestBed.createComponent(Host);
    document.body.append(host());
    await stable();
  });
  afterEach(() => host().remove());

  it('move the block as one step of undo; with Ctrl nothing is met', async () => {
    await drag('[data-handle="move"]', 37, 23, { ctrlKey: true });
    expect([block().frame.xPt, block().frame.yPt]).toEqual([47, 33]);
    store.undo();
    expect([block().frame.xPt, block().frame.yPt]).toEqual([10, 10]);
  });

  it('tell how far, and let go of what they told', async () => {
    const handle = host().querySelector('[data-handle="move"]') as SVGGElement;
    const taker = handle.closest('[data-handle="frame"]') as SVGGElement;
    taker.setPointerCapture = () => undefined;
    taker.releasePointerCapture = () => undefined;
    const send = (type: string, clientX: number): unknown =>
      handle.dispatchEvent(new PointerEvent(type, { bubbles: true, button: 0, pointerId: 3, clientX, clientY: 10, ctrlKey: true }));
    send('pointerdown', 10);
    send('pointermove', 50);
    await stable();
    expect(host().querySelector('[data-testid="distance"]')?.textContent).toMatch(/\d/);
    send('pointercancel', 50);
    await stable();
    expect(host().querySelector('[data-testid="distance"]')).toBeNull();
    // Let go, it follows no more.
    const { xPt } = block().frame;
    send('pointermove', 90);
    expect(block().frame.xPt).toBe(xPt);
  });

  it('change the frame by its edges, the words by its corners', async () => {
    await drag('.edge:not(.flat) ~ .edge:not(.flat)', 40, 0);
    expect(block().frame.widthPt).toBe(340);
    expect(block().style.sizePt).toBe(48);
    store.undo();
    await stable();
    await drag('[data-corner="corner-se"]', 300, 100);
    expect(block().style.sizePt / 48).toBeCloseTo(2, 1);
    expect(block().frame.widthPt / 300).toBeCloseTo(block().style.sizePt / 48, 6);
  });

  it('scale to tenths of a point, exactly with Shift', async () => {
    const inTenths = (): boolean => Math.abs(block().style.sizePt * 10 - Math.round(block().style.sizePt * 10)) < 1e-9;
    await drag('[data-corner="corner-se"]', 37, 13);
    expect([block().style.sizePt > 48, inTenths()]).toEqual([true, true]);
    store.undo();
    await stable();
    await drag('[data-corner="corner-se"]', 37, 13, { shiftKey: true });
    expect([block().style.sizePt > 48, inTenths()]).toEqual([true, false]);
  });

  it('turn the block, with Shift in steps of 15 degrees', async () => {
    await drag('[data-handle="turn"]', 120, 90, { shiftKey: true });
    expect(block().rotationDeg).toBeGreaterThan(0);
    expect(block().rotationDeg % 15).toBe(0);
  });

  it('of a locked block are not there', async () => {
    store.apply((job) => ({ ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: sheet.blocks.map((one) => ({ ...one, locked: true })) })) }));
    await stable();
    expect(host().querySelector('[data-handle="move"]')).toBeNull();
  });

  it('bend a path by its places, and hold the words elsewhere on it', async () => {
    const { id, frame } = block();
    store.apply((job) => withBlockSettings(job, id, { path: newPath('arc', { widthPt: 200 }, 50) }));
    await stable();
    const before = pathPlaces(block().path);
    await drag('[data-place="2"] circle', 20, -10);
    expect(pathPlaces(block().path)[2]).toEqual({ xPt: before[2]!.xPt + 20, yPt: before[2]!.yPt - 10 });
    store.undo();
    await stable();
    expect(pathPlaces(block().path)).toEqual(before);
    await drag('[data-place="hold"] path', -50, 10);
    const { path } = block();
    expect(isRide(path) && path.atShare).toBeLessThan(0.4);
    expect(block().frame).toEqual(frame);
  });

  it('move picked letters to meet a height, and turn them to meet 15 degrees; with Ctrl freely', async () => {
    TestBed.inject(LetterPicks).pick(1);
    await stable();
    const style = () => styleAt(block(), 1);
    const em = style().sizePt / 1000;
    await drag('[data-testid="move-letters"] circle', 30, -0.3 * style().sizePt, { ctrlKey: true });
    expect(style().baselineShiftMilliem).toBeCloseTo(300, -1);
    expect(style().moveMilliem).toBeCloseTo(30 / em, -1);
    expect(styleAt(block(), 0).baselineShiftMilliem).toBe(0);
    store.undo();
    await stable();
    await drag('[data-testid="move-letters"] circle', 30, -3);
    expect(style().baselineShiftMilliem).toBe(0);
    store.undo();
    await stable();
    const dot = host().querySelector('[data-testid="move-letters"] circle')!.getBoundingClientRect();
    const arc = host().querySelector('[data-testid="turn-letters"] path')!.getBoundingClientRect();
    const [x, y] = [arc.left - dot.left - dot.width / 2, arc.top - dot.top - dot.height / 2];
    const turnedBy = (degrees: number) => {
      const { xPt, yPt } = turnedPoint({ xPt: x, yPt: y }, { xPt: 0, yPt: 0 }, degrees);
      return [xPt - x, yPt - y] as const;
    };
    await drag('[data-testid="turn-letters"] path', ...turnedBy(44));
    expect(style().turnDeg).toBe(45);
    store.undo();
    await stable();
    await drag('[data-testid="turn-letters"] path', ...turnedBy(44), { ctrlKey: true });
    expect(style().turnDeg).toBeCloseTo(44, 0);
  });

  it('track the line: its end moves by what every gap gains', async () => {
    store.showPass('tracking');
    await stable();
    const { sizePt } = block().style;
    await drag('[data-testid="tracking-handle"]', 25, 0);
    // Six letters, five gaps: 25 points are five a gap.
    expect(block().style.trackingMilliem).toBeCloseTo((5 * 1000) / 10, -1);
    expect(sizePt).toBe(48);
    store.undo();
    expect(block().style.trackingMilliem).toBe(0);
  });
});
