import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { ActivatedRoute, convertToParamMap } from '@angular/router';
import type { DealRequest, DrillLine, Exercise } from '@jentrix/core/drill';
import { type DrillResult, type KeptResult, type Progress, scoreOf } from '@jentrix/core/drill/kept';
import { BehaviorSubject, type Observable, defer, of, throwError } from 'rxjs';
import { ApiError } from '../api/api.service';
import { FakePreferences } from '../bench/testing';
import { EngineService } from '../engine/engine.service';
import { UserPreferences } from '../settings/user-preferences';
import { enter, named, pageProviders, press, until } from '../ui/testing';
import { DrillApi } from './drill-api';
import { DrillPage } from './drill.page';
import { signal } from '@angular/core';

const WAITING = 'jentrix.drill.waiting';

const line: DrillLine = {
  faceId: 'plain',
  words: 'AVOW',
  letters: 'AVOW'.split('').map((text) => ({ text, outline: 'M0,0L500,0L250,-700Z', advance: 500 })),
  gaps: ['AV', 'VO', 'OW'].map((text) => ({ text, pair: 'diagonal to round' })),
  designer: [0, 500, 1000, 1500],
  measured: [0, 510, 1010, 1500],
  aim: 'designer',
  ascender: 900,
  descender: -200,
  capHeight: 700,
  xHeight: 500,
};
const common = { level: 'straight' as const, seed: 1, line };
const DEALT: Readonly<Record<Exercise['kind'], Exercise>> = {
  place: { ...common, kind: 'place', dealt: [0, 460, 1000, 1500] },
  even: { ...common, kind: 'even', first: [0, 480, 1000, 1500], second: [0, 500, 1000, 1500], answer: 'second', by: 20 },
  wrong: { ...common, kind: 'wrong', places: [0, 500, 1060, 1560], answer: 1, by: 60 },
  leading: { ...common, kind: 'leading', below: line, own: [line, line], answer: 1200, dealt: 1190 },
  touch: { ...common, kind: 'touch', places: [0, 400, 800, 1200], answer: 2 },
};

const progress: Progress = {
  count: 3,
  exercises: [{ kind: 'place', count: 3, score: 71, chance: 27.5, hardness: 0.2 }],
  levels: [{ level: 'round', count: 3, score: 71 }],
  weeks: [{ monday: '2026-11-23', count: 3, score: 71 }],
  streak: { best: 2, now: 1 },
  pairs: [{ pair: 'round to straight', gaps: 9, bias: 12, error: 2, off: 14 }],
  advice: { about: 'pair', says: 'You leave round to straight too open.', next: { kind: 'place', level: 'round', pair: 'round to straight' } },
};

class FakeApi {
  away = false;
  kept: DrillResult[] = [];
  forgotten = 0;
  readonly readProgress = (): Observable<Progress> => this.reached(progress);
  readonly forgetResults = (): Observable<unknown> => (this.forgotten++, this.reached(undefined));
  keepResult(result: DrillResult): Observable<KeptResult> {
    return defer(() => {
      if (!this.away) this.kept.push(result);
      return this.reached({ id: 'r', score: scoreOf(result.answer), result });
    });
  }
  private reached<T>(value: T): Observable<T> {
    return defer(() => (this.away ? throwError(() => new ApiError('offline', 'away')) : of(value)));
  }
}

describe('the drill', () => {
  let api: FakeApi;
  let fixture: ComponentFixture<DrillPage>;
  let asked: DealRequest[];
  let trouble: string;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const score = (): string | undefined => host().querySelector('[data-testid=score]')?.textContent;
  const type = async (name: string, more: KeyboardEventInit = {}): Promise<void> => {
    (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true, ...more }));
    await fixture.whenStable();
  };

  async function open(query: Record<string, string> = {}): Promise<void> {
    const faces = ['plain', 'slanted'].map((id) => ({ id, family: 'Quarry', style: id, italic: id === 'slanted', source: 'shipped' }));
    const engine = {
      faces,
      faces$: new BehaviorSubject({ items: faces, standInId: 'plain' }),
      list: signal({ items: faces, standInId: 'plain' }),
      engine: () => Promise.resolve(),
      deal: (_plain: unknown, request: DealRequest) => {
        asked.push(request);
        return trouble === ''
          ? Promise.resolve({ ...DEALT[request.kind], level: request.level })
          : Promise.reject(Object.assign(new Error(trouble), { name: 'DrillError' }));
      },
    };
    TestBed.configureTestingModule({
      providers: [
        ...pageProviders,
        { provide: DrillApi, useValue: api },
        { provide: EngineService, useValue: engine },
        { provide: UserPreferences, useValue: new FakePreferences() },
        { provide: ActivatedRoute, useValue: { snapshot: { queryParamMap: convertToParamMap(query) } } },
      ],
    });
    fixture = TestBed.createComponent(DrillPage);
    document.body.append(host());
    await until(() => trouble !== '' || host().querySelector('.mover') !== null);
    await fixture.whenStable();
  }
  beforeEach(() => {
    localStorage.removeItem(WAITING);
    [api, asked, trouble] = [new FakeApi(), [], ''];
  });
  afterEach(() => {
    fixture.destroy();
    localStorage.removeItem(WAITING);
  });

  it('begins with what is advised, places letters by keys alone, compares and keeps what was done', async () => {
    await open();
    expect(asked.map(({ kind, level, pair, hardness }) => [kind, level, pair, hardness])).toEqual([['place', 'round', 'round to straight', 0.2]]);
    expect(document.activeElement?.getAttribute('aria-label')).toBe('V, letter 2 of 4');
    await type('ArrowRight');
    await type('ArrowRight', { shiftKey: true });
    expect(document.activeElement?.getAttribute('aria-valuenow')).toBe('472');
    await type('ArrowDown');
    expect(document.activeElement?.getAttribute('aria-label')).toBe('O, letter 3 of 4');
    await type('ArrowLeft');
    await type('Enter');
    await until(() => api.kept.length === 1);
    expect(api.kept[0]?.answer).toEqual(
      jasmine.objectContaining({
        letters: [
          { text: 'V', off: -28 },
          { text: 'O', off: -2 },
        ],
      }),
    );
    // 28 off is worth a third; 2 off nothing less.
    expect(score()).toBe('67');
    expect([...host().querySelectorAll('.score')].map(({ textContent }) => textContent)).toEqual(['33', '100']);
    expect(host().querySelector('.result')?.textContent).toContain('against the measured');
    expect(document.activeElement?.textContent).toContain('Next');
    (document.activeElement as HTMLElement).click();
    await until(() => asked.length === 2);
  });

  it('moves a letter with the pointer, and never off the board', async () => {
    await open();
    const mover = host().querySelector<SVGGElement>('.mover')!;
    mover.setPointerCapture = () => undefined;
    mover.releasePointerCapture = () => undefined;
    const scale = mover.ownerSVGElement?.getScreenCTM()?.a ?? 1;
    const send = (name: string, clientX: number) =>
      mover.dispatchEvent(new PointerEvent(name, { clientX, pointerId: 1, button: 0, bubbles: true, cancelable: true }));
    send('pointerdown', 100);
    send('pointermove', 100 + 40 * scale);
    await fixture.whenStable();
    expect(Number(mover.getAttribute('aria-valuenow'))).toBeCloseTo(500, 0);
    send('pointermove', 1e6);
    send('pointerup', 1e6);
    await fixture.whenStable();
    expect(Number(mover.getAttribute('aria-valuenow'))).toBe(2000);
  });

  it('has the other exercises by keys: which is more even, which gap is wrong, match a leading, find what touches', async () => {
    await open();
    await press(fixture, 'Which is more even?', host());
    await until(() => host().querySelector('jx-even-board') !== null);
    await type('2');
    await until(() => api.kept.length === 1);
    expect(score()).toBe('100');
    await press(fixture, 'Which gap is wrong?', host());
    await until(() => document.activeElement?.classList.contains('gap') ?? false);
    await type('Enter');
    await until(() => api.kept.length === 2);
    expect(score()).toBe('0');
    expect(host().querySelector('.gap.answer')?.textContent).toContain('60 too open');
    await press(fixture, 'Find what touches', host());
    await until(() => host().querySelectorAll('.gap[tabindex]').length === 3);
    await fixture.whenStable();
    await type('ArrowRight');
    await type('ArrowRight');
    await type(' ');
    await until(() => api.kept.length === 3);
    expect(score()).toBe('100');
    await press(fixture, 'Match the leading', host());
    await until(() => host().querySelector('jx-leading-board .mover') !== null);
    await fixture.whenStable();
    await type('ArrowDown', { shiftKey: true });
    await type('Enter');
    await until(() => api.kept.length === 4);
    expect(api.kept.map(({ answer }) => answer.kind)).toEqual(['even', 'wrong', 'touch', 'leading']);
    expect(score()).toBe('100');
    expect(host().querySelector('jx-leading-board .said')?.textContent).toContain('the same');
  });

  it('keeps what was done while the server is away, and sends it when it is back', async () => {
    await open();
    api.away = true;
    await type('Enter');
    await until(() => host().querySelector('header [role=status]')?.textContent.trim() === '1 result not sent yet');
    api.away = false;
    await press(fixture, 'Next ↵', host()).catch(() => host().querySelector<HTMLElement>('.go-on')?.click());
    await until(() => asked.length === 2);
    await fixture.whenStable();
    await type('Enter');
    await until(() => api.kept.length === 2);
    expect(host().querySelector('header [role=status]')).toBeNull();
  });

  it('practises words of one’s own, typed here or brought from the bench', async () => {
    await open({ words: 'Low water', face: 'slanted' });
    expect(asked[0]).toEqual(jasmine.objectContaining({ level: 'own', own: { words: 'Low water', faceId: 'slanted' } }));
    await enter(fixture, 'Your own words', 'High tide', host());
    await press(fixture, 'Practise', host());
    await until(() => asked.length === 2);
    expect(asked[1]?.own).toEqual({ words: 'High tide', faceId: 'slanted' });
  });

  it('says what can’t be practised on, and goes on with something else', async () => {
    trouble = 'At least three letters are needed.';
    await open();
    await until(() => host().querySelector('[role=alert]')?.textContent.includes(trouble) ?? false);
    trouble = '';
    await press(fixture, 'Diagonal', host());
    await until(() => host().querySelector('.mover') !== null);
  });

  it('shows the history, practises what is advised, and forgets it only when asked twice', async () => {
    await open();
    expect(host().querySelector('[data-testid=advice]')?.textContent).toBe('You leave round to straight too open.');
    expect(host().querySelector('[data-testid=streak]')?.textContent).toBe('2');
    expect([...host().querySelectorAll('canvas')].map((one) => one.getAttribute('aria-label'))).toEqual([
      'round to straight: 12 too open',
      'Week of 2026-11-23: 71 in 3 exercises',
    ]);
    await press(fixture, 'Straight', host());
    await press(fixture, 'Practise this', host());
    await until(() => asked.length === 3);
    expect(asked[2]?.pair).toBe('round to straight');
    await press(fixture, 'Clear history', host());
    await until(() => document.querySelector('ngb-modal-window') !== null);
    named('Clear history', document.querySelector('ngb-modal-window') as HTMLElement).click();
    await until(() => api.forgotten === 1);
    await until(() => document.querySelector('ngb-modal-window') === null);
  });
});
