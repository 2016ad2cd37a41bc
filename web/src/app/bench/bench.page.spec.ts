import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Title } from '@angular/platform-browser';
import { findBlock, restyle } from '@jentrix/core/job';
import { editWords } from '@jentrix/core/wording';
import { throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { EngineService } from '../engine/engine.service';
import { DraftStore } from '../kept/drafts';
import { KeptJobs } from '../kept/kept-jobs';
import { UserPreferences } from '../settings/user-preferences';
import { named, pageProviders, until } from '../ui/testing';
import { BenchPage } from './bench.page';
import { BenchStore } from './bench.store';
import { FakeDrafts, FakeKept, FakeServer } from './fake-server';
import { SaveService } from './save.service';
import { FakeEngine, FakePreferences, FakePullsApi, sample } from './testing';
import { UnsentService } from '../offline/unsent.service';

/** The bench as a page: what is heard, where the keys go, what is said while a job can't be had. */
describe('bench page', () => {
  let server: FakeServer;
  let engine: Omit<FakeEngine, 'engine'>;
  let fixture: ComponentFixture<BenchPage>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const store = (): BenchStore => fixture.debugElement.injector.get(BenchStore);
  const text = (): string => host().textContent;

  async function open(): Promise<void> {
    fixture = TestBed.createComponent(BenchPage);
    fixture.componentRef.setInput('id', 'j');
    document.body.append(host());
    await fixture.whenStable();
  }
  async function opened(): Promise<void> {
    await open();
    await until(() => host().querySelector('jx-table [data-block] path') !== null);
    await until(() => host().querySelector('.deck .deck-body') !== null);
    await fixture.whenStable();
  }
  beforeEach(() => {
    server = new FakeServer(sample());
    // The page has the worker begin.
    engine = Object.assign(new FakeEngine(), { engine: () => Promise.resolve() });
    const pulls = new FakePullsApi();
    // What the server of one job doesn't know, that of the pulls does.
    const api = new Proxy(server, {
      get: (target, name, receiver) => (name in target ? Reflect.get(target, name, receiver) : Reflect.get(pulls, name, pulls)) as unknown,
    });
    TestBed.configureTestingModule({
      providers: [
        ...pageProviders,
        { provide: ApiService, useValue: api },
        { provide: EngineService, useValue: engine },
        { provide: UserPreferences, useValue: new FakePreferences() },
        { provide: DraftStore, useValue: new FakeDrafts() },
        { provide: KeptJobs, useValue: new FakeKept() },
        { provide: UnsentService, useValue: { look: () => Promise.resolve() } },
      ],
    });
  });
  afterEach(() => {
    fixture.destroy();
    host().remove();
  });
  const key = (name: string, on: Element = document.body, more: KeyboardEventInit = {}): void =>
    void on.dispatchEvent(new KeyboardEvent('keydown', { key: name, code: name, bubbles: true, cancelable: true, ...more }));

  it('opens a job, names the window after it, and shows its first sheet with the deck of its pass', async () => {
    await opened();
    expect(TestBed.inject(Title).getTitle()).toBe('Store · Jentrix');
    expect(host().querySelectorAll('jx-table [data-block]').length).toBe(2);
    expect(host().querySelector('.deck')?.getAttribute('aria-label')).toBe('Kerning deck');
  });

  it('says why a job can’t be opened, and tries again when asked', async () => {
    server.away = true;
    await open();
    await until(() => text().includes('The job can’t be opened'));
    expect(text()).toContain('away');
    server.away = false;
    named('Try again', host()).click();
    await until(() => host().querySelector('jx-table [data-block] path') !== null);
  });

  it('says that a job is gone, and offers nothing but the shelf', async () => {
    server.readJob = () => throwError(() => new ApiError('not-found', 'There is no such job.'));
    await open();
    await until(() => text().includes('This job is not on the shelf'));
    expect(host().querySelector('button')).toBeNull();
    expect(named('Back to the shelf', host()).getAttribute('href')).toBe('/');
  });

  it('says when letters can’t be set, and tries again when asked', async () => {
    engine.fails = true;
    await open();
    await until(() => host().querySelector('.engine') !== null);
    expect(host().querySelector('.engine')?.textContent).toContain('The engine is away');
    engine.fails = false;
    named('Try again', host()).click();
    await until(() => host().querySelector('jx-table [data-block] path') !== null);
    await until(() => host().querySelector('.engine') === null);
  });

  it('hears its keys: a pass, a step of a gap, undo; and leaves those of a field alone', async () => {
    await opened();
    key('t');
    await until(() => host().querySelector('.deck')?.getAttribute('aria-label') === 'Tracking deck');
    store().showPass('kerning');
    store().placeGap({ blockId: 'a', at: 1 });
    await fixture.whenStable();
    key('ArrowUp');
    expect(findBlock(store().job!, 'a')?.hand).toEqual([{ at: 1, milliem: 2 }]);
    key('z', document.body, { ctrlKey: true });
    expect(findBlock(store().job!, 'a')?.hand).toEqual([]);
    const title = host().querySelector<HTMLInputElement>('jx-masthead .title')!;
    title.focus();
    key('l', title);
    await fixture.whenStable();
    expect(host().querySelector('.deck')?.getAttribute('aria-label')).toBe('Kerning deck');
    // Escape gives them back to the bench, where it is shown: this window is too small for all.
    const value = host().querySelector<HTMLInputElement>('.deck jx-value input')!;
    value.focus();
    named('Sheet', host()).click();
    await fixture.whenStable();
    key('Escape', value);
    expect(document.activeElement?.hasAttribute('data-bench')).toBeTrue();
  });

  it('makes one step of undo of a key that is held', async () => {
    await opened();
    store().placeGap({ blockId: 'a', at: 1 });
    await fixture.whenStable();
    key('ArrowUp');
    for (let i = 0; i < 4; i++) key('ArrowUp', document.body, { repeat: true });
    expect(findBlock(store().job!, 'a')?.hand).toEqual([{ at: 1, milliem: 10 }]);
    store().undo();
    expect(findBlock(store().job!, 'a')?.hand).toEqual([]);
    key('ArrowUp');
    key('ArrowUp');
    store().undo();
    expect(findBlock(store().job!, 'a')?.hand).toEqual([{ at: 1, milliem: 2 }]);
  });

  it('takes a paste as a block, but not one into a field', async () => {
    await opened();
    const paste = (on: Element): void => {
      const data = new DataTransfer();
      data.setData('text/plain', 'Soup and bread');
      on.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    };
    const blocks = (): string[] => store().job!.sheets[0]!.blocks.map(({ words }) => words);
    host().querySelector<HTMLInputElement>('jx-masthead .title')!.focus();
    paste(document.activeElement!);
    await fixture.whenStable();
    expect(blocks()).toEqual(['AVATAR', 'Two nights']);
    host().querySelector<HTMLElement>('[data-bench]')!.focus();
    paste(document.activeElement!);
    await until(() => blocks().length === 3);
    expect(blocks()).toContain('Soup and bread');
  });

  it('gives the keys back to the bench when the pointer pressed a button, and leaves them there for the keyboard', async () => {
    await opened();
    const button = named('Zoom in', host());
    button.focus();
    button.dispatchEvent(new MouseEvent('click', { bubbles: true, detail: 0 }));
    expect(document.activeElement).toBe(button);
    button.dispatchEvent(new MouseEvent('click', { bubbles: true, detail: 1 }));
    expect(document.activeElement?.hasAttribute('data-bench')).toBeTrue();
  });

  it('says the gap in hand to who doesn’t see it', async () => {
    await opened();
    store().placeGap({ blockId: 'a', at: 1 });
    await until(() => host().querySelector('[aria-live=polite]')?.textContent.includes('Gap capital A capital V') ?? false);
  });

  it('offers to write where a sheet has nothing', async () => {
    const job = sample();
    server.record = { ...server.record, job: { ...job, sheets: [{ ...job.sheets[0]!, blocks: [] }] } };
    await open();
    await until(() => text().includes('Nothing on this sheet yet'));
    named('Add copy', host()).click();
    await until(() => store().job!.sheets[0]!.blocks.length === 1);
  });

  it('takes up what somebody else saved, and asks where both changed the same', async () => {
    await opened();
    server.written(restyle(server.record.job, 'b', { sizePt: 99 }));
    await until(() => findBlock(store().job!, 'b')?.style.sizePt === 99);
    server.away = true;
    store().apply((job) => editWords(job, 'a', [{ start: 0, end: 0, insert: 'My ' }]));
    server.away = false;
    server.record = {
      ...server.record,
      revision: server.record.revision + 1,
      job: editWords(server.record.job, 'a', [{ start: 0, end: 0, insert: 'Their ' }]),
    };
    await fixture.debugElement.injector.get(SaveService).flush();
    await until(() => document.querySelector('jx-conflict-dialog') !== null);
    document.querySelectorAll('ngb-modal-window, ngb-modal-backdrop').forEach((one) => one.remove());
  });
});
