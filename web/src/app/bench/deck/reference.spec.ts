/** A reference: laid, moved, scaled and turned by two pairs of places, read, taken and compared, each as the designer does it. */
import { signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type Reference, findBlock, updateBlock } from '@jentrix/core/job';
import type { PictureRead } from '@jentrix/core/reading';
import { ApiService } from '../../api/api.service';
import { enter, named, offer, pageProviders, press, until } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { Pulls } from '../state/pulls';
import { References } from '../state/references';
import type { Table } from '../table/table';
import { FakeEngine, FakePreferences, type FakePullsApi, benchProviders, deckAndTable, sample, settled } from '../testing';
import { EngineService } from '../../engine/engine.service';
import { PictureReader } from './proof/picture-reader';
import { ProofDeck } from './proof/proof-deck';

/** AVATAR in a picture, its letters 22 pixels apart, at half a point a pixel. */
const READ: PictureRead = {
  picture: {
    ...{ width: 400, height: 200, reversed: false, angleDeg: 0, pitch: undefined },
    lines: [{ from: { x: 20, y: 60 }, to: { x: 150, y: 60 }, xHeight: undefined, capHeight: 30, letters: 6, sure: 1 }],
  },
  words: {
    ...{
      size: 44,
      sizeError: 0.1,
      trackingMilliem: 25.2,
      trackingError: 0.6,
      leading: undefined,
      leadingError: 0,
      angleDeg: 3.02,
      angleErrorDeg: 0.01,
      likeness: 0.98,
    },
    lines: [
      {
        ...{ start: 0, end: 6, from: { x: 20, y: 60 }, to: { x: 130, y: 60 }, likeness: 0.98 },
        letters: Array.from({ length: 6 }, (_, at) => ({ at, x: 20 + 22 * at + (at > 2 ? 8 : 0), y: 60, error: 0.01 })),
      },
    ],
  },
  why: undefined,
};

class FakeReader {
  readonly progress = signal<number | undefined>(undefined);
  result: PictureRead | undefined = READ;
  readonly asked: unknown[] = [];
  read(picture: unknown, block: unknown): Promise<{ read: PictureRead; perPixel: number } | undefined> {
    this.asked.push(picture, block);
    return Promise.resolve(this.result && { read: this.result, perPixel: 2 });
  }
  cancel(): void {
    this.progress.set(undefined);
  }
}

describe('a reference', () => {
  let store: BenchStore;
  let fixture: ComponentFixture<ProofDeck>;
  let table: ComponentFixture<Table>;
  let reader: FakeReader;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const sheet = (): HTMLElement => table.nativeElement as HTMLElement;
  const reference = (): Reference | null | undefined => store.sheet?.reference;
  const laid = (): SVGGElement | null => sheet().querySelector('[data-testid="reference"]');
  const stable = async (): Promise<void> => {
    await settled();
    await fixture.whenStable();
    await table.whenStable();
  };
  const layPicture = async (): Promise<void> => {
    await offer(fixture, host().querySelector<HTMLInputElement>('input[type="file"]')!, 'scan.png', 'pixels');
    await until(() => reference()?.of.kind === 'picture');
    await stable();
    await until(() => laid() !== null);
  };
  const rows = (id: string): string[][] =>
    [...host().querySelectorAll(`[data-testid="${id}"]`)].map((row) => [...row.querySelectorAll('th, td')].map(({ textContent }) => textContent.trim()));

  beforeEach(async () => {
    reader = new FakeReader();
    TestBed.configureTestingModule({ providers: [...pageProviders, ...benchProviders(new FakeEngine(), new FakePreferences())] });
    TestBed.overrideComponent(ProofDeck, { remove: { providers: [PictureReader] }, add: { providers: [{ provide: PictureReader, useValue: reader }] } });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    store.selectBlock('a');
    store.showPass('proof');
    ({ fixture, table } = await deckAndTable(ProofDeck));
    await stable();
    await press(fixture, 'Reference', host());
  });
  afterEach(() => {
    host().remove();
    sheet().remove();
  });

  it('is a picture that fits into the sheet, lies under, over or beside it, and is taken away, each a step of undo', async () => {
    await layPicture();
    expect(reference()).toEqual({
      of: { kind: 'picture', pictureId: 'scan', widthPx: 200, heightPx: 100 },
      xPt: 0,
      yPt: 250,
      scale: 3,
      turnDeg: 0,
      opacity: 0.5,
      side: 'under',
      locked: false,
    });
    expect(laid()?.querySelector('image')?.getAttribute('href')).toBe('/api/pictures/scan');
    // Under: before the letters; over: behind them.
    const behind = (): boolean => !!laid() && (laid()!.compareDocumentPosition(sheet().querySelector('.letters')!) & Node.DOCUMENT_POSITION_FOLLOWING) !== 0;
    expect(behind()).toBeTrue();
    await press(fixture, 'Over', host());
    await stable();
    await until(() => laid() !== null);
    expect(behind()).toBeFalse();
    await press(fixture, 'Beside', host());
    await stable();
    expect(laid()?.getAttribute('transform')).toBe('matrix(3 0 0 3 636 250)');
    const opacity = named('Opacity of the reference', host()) as HTMLInputElement;
    for (const value of ['40', '30']) {
      opacity.value = value;
      opacity.dispatchEvent(new Event('input'));
    }
    opacity.dispatchEvent(new Event('change'));
    expect(reference()?.opacity).toBe(0.3);
    store.undo();
    expect(reference()?.opacity).toBe(0.5);
    await enter(fixture, 'Rotate', '12', host());
    await enter(fixture, 'Scale', '150', host());
    expect([reference()?.turnDeg, reference()?.scale]).toEqual([12, 1.5]);
    await press(fixture, 'Fit', host());
    expect([reference()?.turnDeg, reference()?.scale]).toEqual([0, 3]);
    await press(fixture, 'Remove', host());
    await stable();
    expect(reference()).toBeNull();
    expect(laid()).toBeNull();
    store.undo();
    expect(reference()?.scale).toBe(3);
  });

  it('says so where a picture can’t be sent, and keeps what lies there', async () => {
    await layPicture();
    (TestBed.inject(ApiService) as unknown as FakePullsApi).fails = true;
    const before = reference();
    await offer(fixture, host().querySelector<HTMLInputElement>('input[type="file"]')!, 'other.png', 'pixels');
    await stable();
    expect(reference()).toEqual(before);
  });

  it('is dragged on the table as one step, unless it is locked or its panel is away', async () => {
    await layPicture();
    const drag = (): void => {
      const group = laid()!;
      group.setPointerCapture = () => undefined;
      group.releasePointerCapture = () => undefined;
      const send = (type: string, x: number, y: number) =>
        group.dispatchEvent(new PointerEvent(type, { bubbles: true, clientX: x, clientY: y, pointerId: 7, button: 0 }));
      send('pointerdown', 200, 200);
      send('pointermove', 210, 220);
      send('pointermove', 230, 240);
      send('pointerup', 230, 240);
    };
    drag();
    const [x, y] = [reference()?.xPt ?? 0, (reference()?.yPt ?? 0) - 250];
    expect(x).toBeGreaterThan(10);
    expect(y / x).toBeCloseTo(40 / 30, 3);
    store.undo();
    expect(reference()?.xPt).toBe(0);
    await press(fixture, 'Lock', host());
    await stable();
    drag();
    expect(reference()?.xPt).toBe(0);
    await press(fixture, 'Locked', host());
    await press(fixture, 'View', host());
    await stable();
    drag();
    expect(reference()?.xPt).toBe(0);
  });

  it('is scaled and turned by two pairs of places', async () => {
    await layPicture();
    await press(fixture, 'Align by two points', host());
    await stable();
    const click = async (x: number, y: number): Promise<void> => {
      const area = sheet().querySelector('[data-testid="pairing"]');
      area?.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, clientX: x, clientY: y, button: 0 }));
      await stable();
    };
    expect(host().querySelector('.lay [role="status"]')?.textContent).toContain('a point on the reference');
    await click(200, 300);
    expect(host().querySelector('.lay [role="status"]')?.textContent).toContain('its place on the sheet');
    await click(200, 300);
    await click(300, 300);
    expect(sheet().querySelectorAll('.pairs circle').length).toBe(3);
    // Twice as far, and straight down.
    await click(200, 500);
    expect(TestBed.inject(References).pairing()).toBeUndefined();
    expect(reference()?.scale).toBeCloseTo(6, 6);
    expect(reference()?.turnDeg).toBeCloseTo(90, 6);
    // Beside the sheet: what is clicked on it comes to lie where the sheet was clicked.
    store.undo();
    await press(fixture, 'Beside', host());
    await stable();
    await press(fixture, 'Align by two points', host());
    await stable();
    const before = reference()!;
    const k = sheet().querySelector('rect.sheet')!.getBoundingClientRect().width / 600;
    for (const x of [450, 200, 550, 300]) await click(x, 300);
    expect(reference()?.scale).toBeCloseTo(before.scale, 6);
    expect(reference()?.xPt).toBeCloseTo(before.xPt + (200 - 450) / k + 636, 4);
    await press(fixture, 'Align by two points', host());
    await press(fixture, 'Stop', host());
    expect(TestBed.inject(References).pairing()).toBeUndefined();
  });

  it('is read: what was found is told, shown, and taken; the block’s differences follow it', async () => {
    await layPicture();
    await press(fixture, 'Read', host());
    await stable();
    expect(reader.asked[0]).toEqual(reference()?.of);
    expect((reader.asked[1] as { words: string }).words).toBe('AVATAR');
    // A pixel that was read is a point and a half.
    expect(rows('read-value').map(([name, value]) => `${name} ${value}`)).toEqual(['Size 66 pt', 'Tracking +25.2', 'Angle 3.02°', 'Line ends 1 line']);
    expect(sheet().querySelectorAll('[data-testid="found-lines"] path').length).toBe(2);
    expect(host().querySelector('[data-testid="picture-read"]')?.textContent).toContain('letters 45 pt');
    // Letters stand ten points apart in the block, 33 in the picture, and 45 in the middle of it.
    expect(rows('line-difference')).toEqual([['1', '+30', '+127', '+330']]);
    const gaps = [...host().querySelectorAll('[data-testid="gap-difference"]')].map(({ textContent }) => textContent.trim().replace(/\s+/g, ' '));
    expect(gaps[0]).toBe('AT +729');
    host().querySelector<HTMLElement>('[data-testid="gap-difference"]')?.click();
    expect(store.view.gap).toEqual({ blockId: 'a', at: 3 });

    await press(fixture, 'Apply tracking', host());
    expect(findBlock(store.job!, 'a')?.style.trackingMilliem).toBe(25);
    store.undo();
    await press(fixture, 'Apply all', host());
    const taken = findBlock(store.job!, 'a');
    expect([taken?.style.sizePt, taken?.style.trackingMilliem, taken?.rotationDeg]).toEqual([66, 25, 3]);
    store.undo();
    expect(findBlock(store.job!, 'a')?.style.trackingMilliem).toBe(0);
    await press(fixture, 'Move block onto it', host());
    await stable();
    expect(findBlock(store.job!, 'a')?.frame.xPt).toBeCloseTo(40, 6);
    store.undo();
    await press(fixture, 'Move onto block', host());
    await stable();
    expect(reference()?.scale).toBeCloseTo((3 * 50) / 177, 6);

    // Other words: what was read tells nothing of them.
    store.apply((job) => updateBlock(job, 'a', (block) => ({ ...block, words: 'AVATARS' })));
    await stable();
    expect(rows('read-value')).toEqual([]);
    expect(host().textContent).toContain('This reading is of other words.');
  });

  it('says why nothing was read, and reading is broken off by a button', async () => {
    await layPicture();
    for (const [why, words] of [
      ['no type', 'No type found in this picture'],
      ['other words', 'not found'],
    ] as const) {
      reader.result = { picture: why === 'no type' ? undefined : READ.picture, words: undefined, why };
      await press(fixture, host().textContent.includes('Read again') ? 'Read again' : 'Read', host());
      await stable();
      expect(host().querySelector('.read [role="status"]')?.textContent).toContain(words);
    }
    reader.progress.set(0.4);
    await stable();
    expect(host().querySelector('progress')?.value).toBeCloseTo(0.4, 6);
    await press(fixture, 'Cancel', host());
    expect(reader.progress()).toBeUndefined();
  });

  it('is another sheet of the job, known without reading, and says so when that is gone', async () => {
    store.apply((job) => updateBlock(job, 'c', (block) => ({ ...block, words: 'AVATAR' })));
    const select = named('Sheet as reference', host()) as HTMLSelectElement;
    select.value = 'two';
    select.dispatchEvent(new Event('change'));
    await stable();
    await until(() => TestBed.inject(References).shown() !== undefined);
    await stable();
    expect(reference()?.of).toEqual({ kind: 'sheet', jobId: null, pullId: null, sheetId: 'two' });
    expect(rows('line-difference')).toEqual([['1', '0', '0', '0']]);
    await enter(fixture, 'x', '8', host());
    await stable();
    expect(rows('line-difference')).toEqual([['1', '+8', '0', '0']]);
    store.apply((job) => ({ ...job, sheets: job.sheets.filter(({ id }) => id !== 'two') }));
    await stable();
    await until(() => TestBed.inject(References).shown() === null);
    await stable();
    expect(host().textContent).toContain('no longer exists');
  });

  it('is a sheet as it was in a pull', async () => {
    const { id } = (await TestBed.inject(Pulls).keep('Before lunch'))!;
    await press(fixture, 'View', host());
    await press(fixture, 'Reference', host());
    store.apply((job) => updateBlock(job, 'a', (block) => ({ ...block, frame: { ...block.frame, xPt: 99 } })));
    const choose = async (name: string, value: string): Promise<void> => {
      const select = named(name, host()) as HTMLSelectElement;
      await until(() => [...select.options].some((option) => option.value === value));
      select.value = value;
      select.dispatchEvent(new Event('change'));
      await stable();
    };
    await choose('Job the sheet is of', `pull:${id}`);
    await choose('Sheet as reference', 'one');
    expect(reference()?.of).toEqual({ kind: 'sheet', jobId: null, pullId: id, sheetId: 'one' });
    await until(() => !!TestBed.inject(References).shown());
    expect(TestBed.inject(References).shown()?.blocks[0]?.block.frame.xPt).not.toBe(99);
    await stable();
    expect(rows('line-difference')).toEqual([['1', '0', '0', '0']]);
  });

  it('is drawn without an engine that answers', async () => {
    (TestBed.inject(EngineService) as unknown as FakeEngine).fails = true;
    await layPicture();
    expect(laid()).not.toBeNull();
  });
});
