import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import type { BenchStore } from './bench.store';
import { keysOf } from './keys';
import type { KeyContext } from './pass';
import { ALL_PASSES } from './passes';

const KEYS = keysOf(ALL_PASSES);

const pressed = (key: string, more: Partial<KeyboardEventInit> = {}): KeyboardEvent => new KeyboardEvent('keydown', { key, code: more.code ?? key, ...more });

describe('keys', () => {
  it('bind every key to one thing', () => {
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
    for (const event of events) {
      const bound = KEYS.filter(({ matches }) => matches(event));
      expect(bound.length)
        .withContext(`${event.altKey ? 'Alt ' : ''}${event.ctrlKey ? 'Ctrl ' : ''}${event.key}`)
        .toBe(1);
    }
    expect(KEYS.some(({ matches }) => matches(pressed('x')))).toBeFalse();
  });

  it('tell what they do, each in a group', () => {
    for (const { says, shown, group } of KEYS) {
      expect(says.length).toBeGreaterThan(3);
      expect(shown.length).toBeGreaterThan(0);
      expect(group).toBeTruthy();
    }
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
      get: () => {
        throw new Error('No pass is asked');
      },
      help: () => undefined,
      find: () => undefined,
      zoom: () => undefined,
    };
    for (const event of [pressed('ArrowUp'), pressed('ArrowDown'), pressed('ArrowUp', { shiftKey: true })])
      KEYS.find(({ matches }) => matches(event))?.run(context, event);
    expect(steps).toEqual([3, -3, 12]);
  });
});
