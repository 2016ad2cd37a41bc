import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import type { BenchStore } from './bench.store';
import { type KeyLayer, layerOf } from './key-layer';
import { heardKey, allKeys, shownKeys } from './keys';
import type { KeyContext } from './pass';
import { ALL_PASSES } from './passes';

const KEYS = allKeys(ALL_PASSES);

const pressed = (key: string, more: Partial<KeyboardEventInit> = {}): KeyboardEvent => new KeyboardEvent('keydown', { key, code: more.code ?? key, ...more });
const heard = (event: KeyboardEvent, layer: KeyLayer = 'bench', preferences = DEFAULT_PREFERENCES): string | undefined =>
  heardKey(KEYS, event, layer, preferences)?.binding.id;

describe('keys', () => {
  it('bind every key to one thing, under a name of its own', () => {
    expect(new Set(KEYS.map(({ id }) => id)).size).toBe(KEYS.length);
    const events = [
      ...['ArrowLeft', 'ArrowUp', '7', 'Delete', 'Escape', 'n', 'Enter', 'i', 'g', 'c', 'o', 'd', 'F2', 'PageUp', 'b', 'v', '?', 'w', 'f', 't', 'l', 'k'].map(
        (key) => pressed(key),
      ),
      pressed('[', { code: 'BracketLeft' }),
      pressed(';', { code: 'Semicolon' }),
      pressed(',', { code: 'Comma' }),
      pressed('ArrowUp', { altKey: true }),
      ...['z', 'f', 'd'].map((key) => pressed(key, { ctrlKey: true })),
      pressed('Z', { ctrlKey: true, shiftKey: true }),
    ];
    const bound = events.map((event) => heard(event));
    expect(bound.every((id) => id !== undefined)).toBeTrue();
    expect(new Set(bound).size).toBe(events.length);
    for (const event of events)
      expect(KEYS.filter((one) => heardKey([one], event, 'bench', DEFAULT_PREFERENCES)).length)
        .withContext(event.key)
        .toBe(1);
    expect(heard(pressed('p'))).toBe('pass-edges');
    expect(heard(pressed('ß'))).toBeUndefined();
  });

  it('tell what they do, each in a group', () => {
    for (const binding of KEYS) {
      expect(binding.says.length).toBeGreaterThan(3);
      expect(shownKeys(binding, DEFAULT_PREFERENCES).length).toBeGreaterThan(0);
      expect(binding.group).toBeTruthy();
    }
  });

  it('change the job only where the bench has the focus', () => {
    const changing = [
      pressed('ArrowUp'),
      pressed('Delete'),
      pressed('Enter'),
      pressed('PageUp'),
      pressed('d', { ctrlKey: true }),
      pressed('ArrowUp', { altKey: true }),
      pressed('7'),
      pressed(']', { code: 'BracketRight' }),
      pressed('.', { code: 'Period' }),
    ];
    for (const layer of ['control', 'field', 'live field', 'menu', 'dialog'] as const)
      for (const event of changing) expect(heard(event, layer)).withContext(`${event.key} in a ${layer}`).toBeUndefined();
    expect([heard(pressed('k'), 'control'), heard(pressed('k'), 'field'), heard(pressed('k'), 'menu')]).toEqual(['pass-kerning', undefined, undefined]);
    const undo = pressed('z', { ctrlKey: true });
    expect((['bench', 'control', 'live field', 'field', 'menu', 'dialog'] as const).map((layer) => heard(undo, layer))).toEqual([
      'undo',
      'undo',
      'undo',
      undefined,
      undefined,
      undefined,
    ]);
  });

  it('that are single characters can be switched off and be others', () => {
    const off = { ...DEFAULT_PREFERENCES, characterKeys: false };
    for (const key of ['n', 'k', '7', '?']) expect(heard(pressed(key), 'bench', off)).toBeUndefined();
    expect(heard(pressed('ArrowLeft'), 'bench', off)).toBe('walk');
    const own = { ...DEFAULT_PREFERENCES, ownKeys: { track: ['q', 'ö'], 'next-finding': ['z'] } };
    expect([heard(pressed('Z'), 'bench', own), heard(pressed('n'), 'bench', own)]).toEqual(['next-finding', undefined]);
    expect(heardKey(KEYS, pressed('ö'), 'bench', own)?.which).toBe(1);
    expect(heard(pressed(']', { code: 'BracketRight' }), 'bench', own)).toBeUndefined();
    // What does not fit the key is not taken.
    expect(heard(pressed('n'), 'bench', { ...own, ownKeys: { 'next-finding': ['x', 'y'] } })).toBe('next-finding');
  });

  it('step by the preferences, coarsely with Shift', () => {
    const steps: number[] = [];
    const store = {
      view: { gap: { blockId: 'a', at: 1 } },
      block: { id: 'a' },
      apply: (edit: (job: unknown) => unknown) => {
        const job = { sheets: [{ id: 's', blocks: [{ id: 'a', words: 'VA', hand: [], runs: [], style: {} }] }], pairs: [] };
        const after = edit(job) as { sheets: { blocks: { hand: { milliem: number }[] }[] }[] };
        steps.push(after.sheets[0]?.blocks[0]?.hand[0]?.milliem ?? 0);
      },
    } as unknown as BenchStore;
    const context: KeyContext = {
      store,
      preferences: { ...DEFAULT_PREFERENCES, fineMilliem: 3, coarseMilliem: 12 },
      gesture: 'g',
      // No pass is up, and none keeps anything.
      get: (() => []) as KeyContext['get'],
      help: () => undefined,
      find: () => undefined,
      zoom: () => undefined,
    };
    for (const event of [pressed('ArrowUp'), pressed('ArrowDown'), pressed('ArrowUp', { shiftKey: true })])
      heardKey(KEYS, event, 'bench', DEFAULT_PREFERENCES)?.binding.run(context, event, 0);
    expect(steps).toEqual([3, -3, 12]);
  });
});

describe('the layer of a key', () => {
  const inside = (html: string, selector: string): KeyLayer => {
    const page = new DOMParser().parseFromString(html, 'text/html');
    // Elements of another document are no instances of this window's classes: they are taken over.
    const host = document.createElement('div');
    host.append(...[...page.body.childNodes].map((node) => document.importNode(node, true)));
    document.body.append(host);
    try {
      return layerOf(host.querySelector(selector) ?? document.body, document);
    } finally {
      host.remove();
    }
  };

  it('is that of what has the focus, under a menu or a dialog that is open', () => {
    expect(inside('', 'none')).toBe('bench');
    expect(inside('<svg data-bench></svg>', 'svg')).toBe('bench');
    expect(inside('<button>x</button>', 'button')).toBe('control');
    expect(inside('<input type="checkbox">', 'input')).toBe('control');
    expect(inside('<input>', 'input')).toBe('field');
    expect(inside('<select></select>', 'select')).toBe('field');
    expect(inside('<textarea data-live></textarea>', 'textarea')).toBe('live field');
    expect(inside('<div class="dropdown-menu show"></div>', 'none')).toBe('menu');
    expect(inside('<ngb-modal-window></ngb-modal-window><div class="dropdown-menu show"></div>', 'none')).toBe('dialog');
  });
});
