import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { STARTER_WORDS, findBlock, withHand, updateBlock } from '@jentrix/core/job';
import { ToastService } from '../../ui/toasts';
import { named, pageProviders, press, until } from '../../ui/testing';
import { BenchStore } from '../bench.store';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { CopyColumn } from './copy-column';

describe('copy column', () => {
  let store: BenchStore;
  let fixture: ComponentFixture<CopyColumn>;
  let toasts: readonly { message: string; action: { label: string; run: () => void } | undefined }[];
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const fields = (): HTMLTextAreaElement[] => [...host().querySelectorAll('textarea')];
  const words = (id: string): string | undefined => store.job && findBlock(store.job, id)?.words;
  const field = (id: string): HTMLTextAreaElement => host().querySelector(`[data-words=${id}]`) as HTMLTextAreaElement;

  /** Presses into a field as a pointer does; the caret ends up at an offset. */
  function point(id: string, at: number): void {
    const into = field(id);
    into.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true }));
    into.focus();
    into.setSelectionRange(at, at);
    into.dispatchEvent(new PointerEvent('pointerup', { bubbles: true }));
  }
  async function type(id: string, text: string): Promise<void> {
    const into = field(id);
    into.setRangeText(text, into.selectionStart, into.selectionEnd, 'end');
    into.dispatchEvent(new Event('input'));
    await settled();
    await fixture.whenStable();
  }

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [...pageProviders, ...benchProviders(new FakeEngine(), new FakePreferences())] });
    store = TestBed.inject(BenchStore);
    TestBed.inject(ToastService).toasts$.subscribe((all) => (toasts = all));
    store.open(updateBlock(sample(), 'b', (block) => ({ ...block, words: STARTER_WORDS })));
    fixture = TestBed.createComponent(CopyColumn);
    document.body.append(host());
    await settled();
    await fixture.whenStable();
  });

  it('is the words of the sheet, block by block', () => {
    expect(fields().map(({ value }) => value)).toEqual(['AVATAR', STARTER_WORDS]);
  });

  it('edits words as they are typed; a pause makes a step, and kerning beside them stays', async () => {
    store.apply((job) => withHand(job, 'a', 2, -20));
    point('a', 6);
    await type('a', 'S');
    await type('a', '!');
    expect(words('a')).toBe('AVATARS!');
    expect(store.job && findBlock(store.job, 'a')?.hand).toEqual([{ at: 2, milliem: -20 }]);
    store.undo();
    expect(words('a')).toBe('AVATAR');
  });

  it('takes typing back word by word, and a deletion apart from it', async () => {
    const key = (inputType: string, data: string | null, change: (value: string) => string): void => {
      const into = field('a');
      into.dispatchEvent(new InputEvent('beforeinput', { inputType, data }));
      into.value = change(into.value);
      into.setSelectionRange(into.value.length, into.value.length);
      into.dispatchEvent(new InputEvent('input', { inputType, data }));
    };
    point('a', 6);
    for (const letter of ' of two nights') key('insertText', letter, (value) => value + letter);
    for (let i = 0; i < 3; i++) key('deleteContentBackward', null, (value) => value.slice(0, -1));
    const seen: (string | undefined)[] = [words('a')];
    for (let i = 0; i < 4; i++) {
      store.undo();
      seen.push(words('a'));
    }
    expect(seen).toEqual(['AVATAR of two nig', 'AVATAR of two nights', 'AVATAR of two', 'AVATAR of', 'AVATAR']);
    store.redo();
    await settled();
    expect(words('a')).toBe('AVATAR of');
  });

  it('pastes what is bold, of a size and coloured elsewhere so, or the words only; plain words are left to the field', async () => {
    const paste = (html: string): boolean => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/html', html);
      clipboardData.setData('text/plain', 'red');
      const event = new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true });
      field('a').dispatchEvent(event);
      return event.defaultPrevented;
    };
    point('a', 2);
    expect(paste('<p>plain</p>')).toBeFalse();
    expect(paste('<p>so <span style="color: #ff0000; font-size: 24px">red</span></p>')).toBeTrue();
    await until(() => words('a') === 'AVso redATAR');
    const runs = () => store.job && findBlock(store.job, 'a')?.runs.map(({ start, end, style }) => [start, end, style.colour, style.sizePt]);
    expect(runs()).toEqual([[5, 8, '#ff0000', 18]]);
    await fixture.whenStable();
    expect([field('a').selectionStart, document.activeElement]).toEqual([8, field('a')]);
    expect(toasts.at(-1)?.action?.label).toBe('Text only');
    toasts.at(-1)?.action?.run();
    expect([words('a'), runs()]).toEqual(['AVso redATAR', []]);
    store.undo();
    store.undo();
    expect(words('a')).toBe('AVATAR');
  });

  it('gives words that only hold the place to the first key, and keeps real ones', async () => {
    point('b', 5);
    await type('b', 'Leonids');
    expect(words('b')).toBe('Leonids');
    field('b').blur();
    point('b', 0);
    await type('b', 'The ');
    expect(words('b')).toBe('The Leonids');
  });

  it('keeps what is picked when the field is left, but no mere caret', () => {
    point('a', 2);
    field('a').blur();
    expect(store.view.selection).toBeUndefined();
    point('a', 2);
    field('a').setSelectionRange(1, 3);
    field('a').dispatchEvent(new Event('select'));
    field('a').blur();
    expect(store.view.selection).toEqual(jasmine.objectContaining({ start: 1, end: 3 }));
  });

  it('adds copy below, ready to be typed over', async () => {
    await press(fixture, 'Add copy', host());
    await settled();
    await until(() => document.activeElement instanceof HTMLTextAreaElement && document.activeElement.value === 'New copy');
    const added = document.activeElement as HTMLTextAreaElement;
    await until(() => added.selectionEnd - added.selectionStart === 'New copy'.length);
    expect(fields().length).toBe(3);
  });

  it('takes a block off the sheet with a way back', async () => {
    await press(fixture, 'Delete block', host());
    await fixture.whenStable();
    expect(fields().length).toBe(1);
    toasts.at(-1)?.action?.run();
    await fixture.whenStable();
    expect(fields().length).toBe(2);
  });

  it('locks and copies', async () => {
    await press(fixture, 'Lock', host());
    await fixture.whenStable();
    expect(named('Unlock', host())).toBeTruthy();
    await press(fixture, 'Duplicate block', host());
    await settled();
    await fixture.whenStable();
    expect(fields().map(({ value }) => value)).toEqual(['AVATAR', STARTER_WORDS, 'AVATAR']);
  });
});
