import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { moveBlocks, restyle, updateBlock } from '@jentrix/core/job';
import { pageProviders, until } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { Instead } from '../state/instead';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { Table } from './table';

/** The table at 600 by 800 pixels with a sheet of 600 by 800 points, letters ten points apart. */
describe('table', () => {
  let store: BenchStore;
  let fixture: ComponentFixture<Table>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const surface = (): SVGSVGElement => host().querySelector('svg.surface') as SVGSVGElement;
  const stable = async (): Promise<void> => {
    await settled();
    await new Promise((done) => requestAnimationFrame(done));
    await fixture.whenStable();
  };
  /** A point of the sheet on the screen. */
  function at(xPt: number, yPt: number): { clientX: number; clientY: number } {
    const matrix = (surface().querySelector('.sheet') as SVGGraphicsElement).getScreenCTM();
    const { x, y } = new DOMPoint(xPt, yPt).matrixTransform(matrix ?? undefined);
    return { clientX: x, clientY: y };
  }
  const click = (xPt: number, yPt: number, more: MouseEventInit = {}): unknown =>
    surface()
      .querySelector('.sheet')
      ?.dispatchEvent(new MouseEvent('click', { bubbles: true, ...at(xPt, yPt), ...more }));

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [...pageProviders, ...benchProviders(new FakeEngine(), new FakePreferences())] });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    // The fake engine sets at the origin: block b is moved out of the way of a.
    store.apply((job) =>
      restyle(
        updateBlock(job, 'b', (block) => ({ ...block, locked: true })),
        'a',
        { sizePt: 10 },
      ),
    );
    fixture = TestBed.createComponent(Table);
    Object.assign(host().style, { display: 'block', width: '600px', height: '800px' });
    document.body.append(host());
    await until(() => fixture.componentInstance.percent() !== 75);
    await stable();
  });
  afterEach(() => host().remove());

  it('brings what is gone to into view, and leaves what is seen where it is', async () => {
    const place = (): string | null | undefined => host().querySelector('.sheet')?.parentElement?.getAttribute('transform');
    const before = place();
    store.placeGap({ blockId: 'a', at: 2 });
    await stable();
    expect(place()).toBe(before);
    // A hundred times as near, at the far corner: the first letters are out of view.
    for (let i = 0; i < 10; i++) fixture.componentInstance.zoomBy(1.6);
    await stable();
    const near = place();
    store.placeGap({ blockId: 'a', at: 4 });
    await stable();
    expect(place()).not.toBe(near);
    const caret = host().querySelector('[data-testid="caret"]')!.getBoundingClientRect();
    const room = surface().getBoundingClientRect();
    expect(caret.right > room.left && caret.left < room.right && caret.bottom > room.top && caret.top < room.bottom).toBeTrue();
    const there = place();
    store.apply((job) => restyle(job, 'a', { trackingMilliem: 1 }));
    await stable();
    expect(place()).toBe(there);
  });

  it('shows another sheet instead for a moment, without anything to take hold of', async () => {
    const drawn = (): number => host().querySelectorAll('[data-block]').length;
    const [before, overlay] = [drawn(), '.overlay, [data-handle]'];
    expect(host().querySelector(overlay)).not.toBeNull();
    const instead = TestBed.inject(Instead);
    const set = store.sheetSetting!.blocks.get('a')!;
    const shown = { sheet: { ...store.sheet!, widthPt: 123 }, blocks: [{ block: { ...set.block, id: 'older' }, setting: set.setting }] };
    instead.show(shown);
    await stable();
    expect([drawn(), host().querySelector('.sheet')?.getAttribute('width'), host().querySelector(overlay)]).toEqual([1, '123', null]);
    // What was shown before does not end what is shown now.
    instead.end({ ...shown });
    expect(instead.shown()).toBe(shown);
    instead.end();
    await stable();
    expect([drawn(), host().querySelector('.sheet')?.getAttribute('width')]).toEqual([before, '600']);
  });

  it('draws every letter of every block on its ground, for those who don’t see it too', () => {
    const blocks = [...host().querySelectorAll('[data-block]')];
    expect(blocks.map((block) => (block as SVGElement).dataset['block'])).toEqual(['a', 'b']);
    expect(blocks.map((block) => block.querySelectorAll('path').length)).toEqual([6, 10]);
    expect(blocks[0]?.getAttribute('role')).toBe('img');
    expect(blocks[0]?.getAttribute('aria-label')).toContain('AVATAR');
    expect(host().querySelector('rect.sheet')?.getAttribute('width')).toBe('600');
  });

  it('a click puts the caret into the nearest gap of the uppermost line there, elsewhere it picks the block or nothing', async () => {
    click(21, 8);
    await stable();
    expect(store.view.gap).toEqual({ blockId: 'b', at: 2 });
    expect(host().querySelector('[data-testid="caret"]')).not.toBeNull();
    click(200, 60);
    await stable();
    expect([store.view.blockId, store.view.gap]).toEqual(['b', undefined]);
    click(500, 700);
    await stable();
    expect(store.view.blockId).toBeUndefined();
    click(21, 8, { shiftKey: true });
    expect(store.picked).toEqual(['b']);
  });

  it('shows letters that are picked, also where a shift has taken them', async () => {
    store.apply((job) => restyle(job, 'a', { baselineShiftMilliem: 500 }, { start: 2, end: 4 }));
    store.setSelection('a', { start: 1, end: 4 }, true);
    await stable();
    // The fake engine knows no shift: one stretch, from the second letter to the fifth.
    const boxes = [...host().querySelectorAll('[data-testid="selection"] rect')];
    expect(boxes.map((box) => [box.getAttribute('x'), box.getAttribute('width')])).toEqual([['10', '30']]);
  });

  it('while words are edited a drag picks letters, and a drag of a new block draws its frame', async () => {
    const asked: { start: number; end: number }[] = [];
    store.editRequests$.subscribe(({ start, end }) => asked.push({ start, end }));
    surface().setPointerCapture = () => undefined;
    surface().releasePointerCapture = () => undefined;
    const pointer = (type: string, xPt: number, yPt: number): unknown =>
      surface().dispatchEvent(new PointerEvent(type, { bubbles: true, cancelable: true, button: 0, pointerId: 1, ...at(xPt, yPt) }));
    store.setSelection('b', { start: 0, end: 0 }, true);
    await stable();
    pointer('pointerdown', 11, 8);
    pointer('pointermove', 41, 8);
    pointer('pointerup', 41, 8);
    expect(asked.at(-1)).toEqual({ start: 1, end: 4 });
    store.draw('block');
    await stable();
    pointer('pointerdown', 100, 300);
    pointer('pointermove', 300, 400);
    await stable();
    expect(host().querySelector('rect.drawn')?.getAttribute('width')).toMatch(/^(199|200)/);
    pointer('pointerup', 300, 400);
    await stable();
    expect(store.sheet?.blocks.length).toBe(3);
    expect(store.block?.words).toBe('New copy');
  });

  it('zooms to the sheet and to the block, and says how large it is', () => {
    fixture.componentInstance.zoomTo('sheet');
    const whole = fixture.componentInstance.percent();
    fixture.componentInstance.zoomTo('block');
    expect(fixture.componentInstance.percent()).toBeGreaterThan(whole);
    fixture.componentInstance.zoomTo('sheet');
    expect(fixture.componentInstance.percent()).toBe(whole);
    fixture.componentInstance.zoomBy(2);
    expect(fixture.componentInstance.percent()).toBeCloseTo(whole * 2, -1);
  });

  it('is zoomed by the wheel about the pointer, and goes on from where keys have brought it', async () => {
    await until(() => '__zoom' in surface());
    const under = at(100, 300);
    const turn = (deltaY: number): unknown => surface().dispatchEvent(new WheelEvent('wheel', { bubbles: true, cancelable: true, deltaY, ...under }));
    fixture.componentInstance.zoomBy(2);
    await stable();
    const [before, sheet] = [fixture.componentInstance.percent(), at(100, 300)];
    Object.assign(under, sheet);
    turn(-200);
    await stable();
    expect(fixture.componentInstance.percent()).toBeGreaterThan(before);
    const now = at(100, 300);
    // Pointers are told of in whole pixels.
    expect(Math.hypot(now.clientX - sheet.clientX, now.clientY - sheet.clientY)).toBeLessThan(1);
    // No further than letters can be seen.
    for (let i = 0; i < 40; i++) fixture.componentInstance.zoomBy(2);
    expect(fixture.componentInstance.percent()).toBe(60 * 75);
  });

  it('draws a block that moved where it is now, and no other anew', async () => {
    const other = host().querySelector('[data-block="b"] path');
    store.apply((job) => moveBlocks(job, ['a'], 5, 5));
    await stable();
    expect(host().querySelector('[data-block="b"] path')).toBe(other);
  });
});
