/** One kerning key in Chromium: from keydown to the frame that shows it, beside an empty frame of the same run; in a free headline, and in a lock-up that is fitted anew. */
import { clickGap } from '@jentrix/e2e/harness';
import { HEADLINE, atTheBench } from './at-the-bench';
import { ms, percentile, printTable, ratio } from './table';

const KEYS = 120;

/** The lock-up of the demo's flyer: three lines in three faces at one width. */
const LOCK_UP = 'openday-lockup';

export async function benchKey(): Promise<void> {
  await keysIn('Perseids', HEADLINE, 23, 'One kerning key, keydown to painted frame (page, worker, DOM)');
  await keysIn('Open-day', LOCK_UP, 7, 'The same in a lock-up of three lines, fitted anew at every key');
}

async function keysIn(title: string, blockId: string, at: number, heading: string): Promise<void> {
  await atTheBench(async (page) => {
    await clickGap(page, blockId, at);
    const { keys, frames, sameFrame } = await page.evaluate(
      async (block, count, place) => {
        const nextFrame = () => new Promise<number>((done) => requestAnimationFrame(done));
        // A frame is painted when the task after its animation callbacks runs.
        const painted = async (): Promise<number> => {
          await nextFrame();
          return new Promise((done) => {
            const { port1, port2 } = new MessageChannel();
            port1.onmessage = () => done(performance.now());
            port2.postMessage(undefined);
          });
        };
        const letter = () => document.querySelector(`jx-table [data-block="${block}"] path[data-at="${place}"]`)?.getAttribute('transform');
        const frames: number[] = [];
        for (let i = 0; i < count; i++) {
          const start = performance.now();
          await painted();
          frames.push(performance.now() - start);
        }
        const keys: number[] = [];
        let sameFrame = 0;
        for (let i = 0; i < count; i++) {
          await new Promise((done) => setTimeout(done, 20 + (i % 16)));
          const before = letter();
          const start = performance.now();
          document.body.dispatchEvent(new KeyboardEvent('keydown', { key: i % 2 ? 'ArrowUp' : 'ArrowDown', code: 'Arrow', bubbles: true, cancelable: true }));
          let waited = 0;
          for (;;) {
            const at = await painted();
            waited++;
            if (letter() !== before) {
              keys.push(at - start);
              if (waited === 1) sameFrame++;
              break;
            }
            if (waited > 60) throw new Error('The key did not show');
          }
        }
        return { keys, frames, sameFrame };
      },
      blockId,
      KEYS,
      at,
    );
    const row = (name: string, samples: readonly number[]): string[] => [name, ms(percentile(samples, 0.5)), ms(percentile(samples, 0.95))];
    printTable(heading, [
      ['', 'median', 'p95'],
      row('empty frame', frames),
      row('kerning key', keys),
      ['key / empty frame', ratio(percentile(keys, 0.5) / percentile(frames, 0.5)), ratio(percentile(keys, 0.95) / percentile(frames, 0.95))],
      ['shown in the very next frame', `${Math.round((100 * sameFrame) / KEYS)} %`, ''],
    ]);
  }, title);
}
