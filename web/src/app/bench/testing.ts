/** What specs of the bench stand on: a small job, and an engine that sets every letter ten points wide. */
import type { Finding, Inspection } from '@jentrix/core/findings';
import { type Block, type Job, type Sheet, createBlock, createJob, createSheet } from '@jentrix/core/job';
import { DEFAULT_PREFERENCES, type Preferences } from '@jentrix/core/preferences';
import type { BlockSetting } from '@jentrix/core/setting';
import type { Provider } from '@angular/core';
import { BehaviorSubject } from 'rxjs';
import { EngineService } from '../engine/engine.service';
import type { SetReply, SetRequest } from '../engine/protocol';
import { PreferencesService } from '../ui/preferences.service';
import { BenchStore } from './bench.store';

export const frame = { xPt: 10, yPt: 10, widthPt: 300, heightPt: 100 };

/** Two sheets: blocks `a` (AVATAR) and `b` on the first, `c` on the second. */
export function sample(): Job {
  let n = 0;
  const sheet = (id: string, ...blocks: Block[]): Sheet => ({ ...createSheet(id, `Sheet ${id}`, 600, 800, 'mm'), blocks });
  return {
    ...createJob('Store', () => `id${n++}`),
    sheets: [sheet('one', createBlock('a', 'AVATAR', frame), createBlock('b', 'Two nights', frame)), sheet('two', createBlock('c', 'Vega', frame))],
  };
}

/** Sets every block as one line of one glyph a letter, and finds one thing in a block that is not hand-kerned. */
export class FakeEngine {
  readonly faces$ = new BehaviorSubject({ items: [], standInId: '' });
  readonly sets: SetRequest[] = [];
  readonly inspected: string[][] = [];
  fails = false;

  async set(request: SetRequest): Promise<SetReply> {
    this.sets.push(request);
    if (this.fails) throw new Error('The engine is away');
    const settings = request.blocks.map((block): BlockSetting => {
      const glyphs = Array.from({ length: block.words.length }, (_, cluster) => ({ glyphId: 1, cluster, xPt: cluster * 10, yPt: 0, offsetPt: 0 }));
      const run = { start: 0, end: block.words.length, style: block.style, scale: 1, xScale: 1, glyphs, rules: [] };
      const line = { start: 0, end: block.words.length, visibleEnd: block.words.length, leftPt: 0, widthPt: 100, baselinePt: 10, leadingPt: 12, sizePt: 10, runs: [run] }; // prettier-ignore
      return { blockId: block.id, lines: [line], frame: block.frame, heightPt: 10, cut: false, reducedCaps: false, wordSpaceMilliem: 250, missingFaces: [] };
    });
    return Promise.resolve({ settings, inks: [], instances: [] });
  }

  async inspect(blocks: Block[]): Promise<Inspection[]> {
    this.inspected.push(blocks.map(({ id }) => id));
    return Promise.resolve(
      blocks.map((block): Inspection => {
        const at = 2;
        const finding: Finding = {
          rule: 'gap-open',
          need: 'K4',
          blockId: block.id,
          at,
          severity: 'fault',
          visiblePt: block.id === 'a' ? 5 : 3,
          subject: 'VA',
          message: 'too open',
          changeMilliem: -20,
          proposal: { hand: [{ at, milliem: -20 }] },
        };
        const open = block.hand.length === 0;
        const silenced = block.intended.length > 0;
        return {
          blockId: block.id,
          evenness: 50,
          evennessProposed: 90,
          lineEvenness: [50],
          letterMilliem: 120,
          deviations: open ? [20, 0] : [0, 0],
          proposedDeviations: [0, 0],
          findings: open && !silenced ? [finding] : [],
          intended: open && silenced ? [finding] : [],
        };
      }),
    );
  }
}

/** Preferences that are kept nowhere. */
export class FakePreferences {
  readonly subject = new BehaviorSubject<Preferences>(DEFAULT_PREFERENCES);
  readonly preferences$ = this.subject.asObservable();
  get current(): Preferences {
    return this.subject.value;
  }
  change(change: Partial<Preferences>): Promise<void> {
    this.subject.next({ ...this.current, ...change });
    return Promise.resolve();
  }
}

/** A bench with nothing real behind it. */
export const benchProviders = (engine: FakeEngine, preferences: FakePreferences): Provider[] => [
  BenchStore,
  { provide: EngineService, useValue: engine },
  { provide: PreferencesService, useValue: preferences },
];

/** Waits until the engine has nothing more to say. */
export async function settled(): Promise<void> {
  for (let i = 0; i < 30; i++) await Promise.resolve();
}
