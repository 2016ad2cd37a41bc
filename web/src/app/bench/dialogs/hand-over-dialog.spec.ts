import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { BehaviorSubject, NEVER, type Observable, of, throwError } from 'rxjs';
import { ApiError, ApiService, type MadeFile } from '../../api/api.service';
import { ToastService } from '../../ui/toasts';
import { enter, named, pageProviders, press, until } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { SaveService } from '../save.service';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { HandOverDialog } from './hand-over-dialog';

describe('hand-over', () => {
  let fixture: ComponentFixture<HandOverDialog>;
  let asked: string[];
  let answer: (path: string, arrived?: (bytes: number) => void) => Observable<MadeFile>;
  let flushed: boolean;
  let closed: number;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const said = (): string => host().textContent.replace(/\s+/g, ' ');
  const radio = (name: string): HTMLInputElement =>
    [...host().querySelectorAll('label')].find(({ textContent }) => textContent.includes(name))!.querySelector('input')!;
  const choose = async (name: string): Promise<void> => {
    radio(name).click();
    await fixture.whenStable();
  };
  const made = (): string[] => asked.filter((path) => !path.includes('width=') && !path.includes('preview'));

  async function open(): Promise<void> {
    fixture = TestBed.createComponent(HandOverDialog);
    document.body.append(host());
    await fixture.whenStable();
  }

  beforeEach(async () => {
    localStorage.clear();
    asked = [];
    closed = 0;
    flushed = true;
    // As many bytes as pixels.
    answer = (path) => of({ name: 'made', bytes: new Blob(['x'.repeat(Number(/width=(\d+)/.exec(path)?.[1] ?? 10) ** 2)]) });
    TestBed.configureTestingModule({
      providers: [
        ...pageProviders,
        ...benchProviders(new FakeEngine(), new FakePreferences()),
        { provide: SaveService, useValue: { state$: new BehaviorSubject({ kind: 'saved' }), jobId: 'j1', flush: () => Promise.resolve(flushed) } },
        {
          provide: ApiService,
          useValue: { madeFile: (_: string, path: string, arrived?: (bytes: number) => void) => (asked.push(path), answer(path, arrived)) },
        },
        { provide: NgbActiveModal, useValue: { close: () => closed++, dismiss: () => undefined } },
      ],
    });
    TestBed.inject(BenchStore).open(sample());
    await settled();
    await open();
  });
  afterEach(() => {
    host().remove();
    localStorage.clear();
  });

  it('shows what will come: its pixels, and about its bytes, from two small ones', async () => {
    await until(() => asked.length === 2);
    await fixture.whenStable();
    expect(asked[0]).toMatch(/^sheets\/one\/png\?transparent=false&width=\d+$/);
    const [, width = 0, height = 0] = (/(\d+) × (\d+) pixels/.exec(said()) ?? []).map(Number);
    expect(host().querySelector('img')).not.toBeNull();
    // Bytes grow as pixels do here, both ways.
    await choose('2×');
    await until(() => asked.length === 4);
    await fixture.whenStable();
    expect(said()).toContain(`${width * 2} × ${height * 2} pixels`);
    const bytes = Math.round((width * 2) ** 2 / 1e5) / 10;
    expect(said()).toContain(`about ${bytes >= 1 ? `${bytes < 10 ? bytes.toFixed(1) : Math.round(bytes)} MB` : ''}`);
  });

  it('makes one sheet or several, with the options that were set, and remembers them', async () => {
    await choose('Width');
    await enter(fixture, 'Width', '800', host());
    await choose('Transparent background');
    await press(fixture, 'Hand over', host());
    await until(() => closed === 1);
    expect(asked.at(-1)).toBe('sheets/one/png?transparent=true&width=800');
    await choose('All 2');
    await choose('SVG');
    await choose('Live text');
    await press(fixture, 'Hand over', host());
    await until(() => closed === 2);
    expect(asked.at(-1)).toBe('sheets.zip?format=svg&embed=false&letters=text');
    await choose('PDF');
    await press(fixture, 'Hand over', host());
    await until(() => closed === 3);
    expect(asked.at(-1)).toBe('sheets.pdf?letters=outlines&bleed=0&marks=false&ppi=300');
    await choose('Job file');
    await choose('Pulls');
    await press(fixture, 'Hand over', host());
    await until(() => closed === 4);
    expect(asked.at(-1)).toBe('file?pulls=true');
    host().remove();
    await open();
    expect(radio('Job file').checked).toBeTrue();
    await choose('PNG');
    expect([radio('Width').checked, (named('Width', host()) as HTMLInputElement).value, radio('All 2').checked]).toEqual([true, '800', true]);
  });

  it('makes only the block that is worked on, where that is asked for and one sheet is picked', async () => {
    await choose('This block only');
    await press(fixture, 'Hand over', host());
    await until(() => closed === 1);
    expect(asked.at(-1)).toBe(`sheets/one/png?scale=1&transparent=false&block=${TestBed.inject(BenchStore).block!.id}`);
    await choose('All 2');
    expect(said()).not.toContain('This block only');
    await press(fixture, 'Hand over', host());
    await until(() => closed === 2);
    expect(asked.at(-1)).toBe('sheets.zip?format=png&scale=1&transparent=false');
  });

  it('makes nothing where no sheet is picked, or the server lacks the last edits', async () => {
    await choose('1');
    const button = named('Hand over', host()) as HTMLButtonElement;
    const first = host().querySelectorAll<HTMLInputElement>('.sheets input')[1]!;
    if (first.checked) first.click();
    await fixture.whenStable();
    expect(button.disabled).toBeTrue();
    expect(said()).toContain('Choose the sheets');
    first.click();
    await fixture.whenStable();
    flushed = false;
    const before = made().length;
    button.click();
    const toasts = TestBed.inject(ToastService);
    let message = '';
    toasts.toasts$.subscribe((all) => (message = all.at(-1)?.message ?? ''));
    await until(() => message.includes('Nothing was handed over'));
    expect([made().length, closed]).toEqual([before, 0]);
    // The preview says the same in its place.
    await choose('3×');
    await until(() => said().includes('are not saved yet'));
  });

  it('tells how far it is, is given up at once, and says what went wrong', async () => {
    await until(() => asked.length === 2);
    let tell: (bytes: number) => void = () => undefined;
    answer = (_path, arrived) => ((tell = arrived ?? tell), NEVER);
    named('Hand over', host()).click();
    await until(() => said().includes('Making'));
    tell(2_500_000);
    await fixture.whenStable();
    expect(said()).toContain('2.5 MB so far');
    await press(fixture, 'Cancel', host());
    await until(() => !said().includes('so far'));
    expect(closed).toBe(0);
    answer = () => throwError(() => new ApiError('refused', 'It would have too many pixels.'));
    let message = '';
    TestBed.inject(ToastService).toasts$.subscribe((all) => (message = all.at(-1)?.message ?? ''));
    named('Hand over', host()).click();
    await until(() => message === 'It would have too many pixels.');
    expect(closed).toBe(0);
    await choose('2×');
    await until(() => said().includes('It would have too many pixels.'));
  });
});
