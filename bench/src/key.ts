/** One key in Chromium, from keydown to the frame that shows it, beside an empty frame of the same run: kerning in a free headline and in a lock-up that is fitted anew, a shift in long copy. */
import { type Job, createBlock, createJob, visibleLetters, withLetters } from '@jentrix/core/job';
import { clickGap, stillBox } from '@jentrix/e2e/harness';
import type { Page } from 'puppeteer-core';
import { HEADLINE, atTheBench } from './at-the-bench';
import { ms, percentile, printTable, ratio } from './table';

const KEYS = 120;

/** The lock-up of the demo's flyer: three lines in three faces at one width. */
const LOCK_UP = 'openday-lockup';

const LONG = 'long';
const COPY = 'Bring a blanket and leave the torch. Your eyes need twenty minutes to find the dark, then the valley fills with falling stars. ';
/** The letter of the long copy that is raised: one that stands as it is set. */
const RAISED = 20;

export async function benchKey(): Promise<void> {
  const gap = (blockId: string, at: number) => (page: Page) => clickGap(page, blockId, at);
  await keysIn({
    job: 'Perseids',
    blockId: HEADLINE,
    at: 23,
    heading: 'One kerning key, keydown to painted frame (page, worker, DOM)',
    begin: gap(HEADLINE, 23),
  });
  await keysIn({ job: 'Open-day', blockId: LOCK_UP, at: 7, heading: 'The same in a lock-up of three lines, fitted anew at every key', begin: gap(LOCK_UP, 7) });
  await keysIn({
    job: longCopy(),
    blockId: LONG,
    at: RAISED,
    heading: 'A key that raises a letter, in 2,000 letters of which 200 are shifted one by one',
    begin: async (page) => {
      await page.keyboard.press('s');
      await page.waitForSelector('jx-shift-deck [data-letter]');
      const { x, y, width, height } = await stillBox(page, `jx-table [data-block="${LONG}"] path[data-at="${RAISED}"]`);
      await page.mouse.click(x + width / 2, y + height / 2);
      await page.waitForSelector('[data-testid="picked-letters"] rect');
    },
  });
}

/** A page of 2,000 letters, of which every eighth is raised and turned until there are 200. */
function longCopy(): Job {
  const job = createJob('Long copy', () => crypto.randomUUID());
  const [sheet] = job.sheets;
  if (!sheet) return job;
  const style = { faceId: 'source-sans-3-regular', sizePt: 18 };
  const plain = createBlock(LONG, COPY.repeat(16).slice(0, 2000), { xPt: 40, yPt: 40, widthPt: 1110, heightPt: 100 }, style);
  const letters = visibleLetters(plain.words)
    .filter((_, i) => i % 8 === 0)
    .slice(0, 200);
  const block = { ...withLetters(plain, letters, { baselineShiftMilliem: 120, turnDeg: 10 }), grow: 'down' as const };
  return { ...job, sheets: [{ ...sheet, widthPt: 1190, heightPt: 1684, blocks: [block] }] };
}

interface Keys {
  job: string | Job;
  blockId: string;
  /** The letter that moves, by its offset in the words. */
  at: number;
  heading: string;
  /** Brings up what the keys are for. */
  begin: (page: Page) => Promise<void>;
}

async function keysIn({ job, blockId, at, heading, begin }: Keys): Promise<void> {
  await atTheBench(async (page) => {
    await begin(page);
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
        const letter = () => document.querySelector(`jx-table [data-block="${block}"] path[data-at="${place}"]`)?.getAttribute('d');
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
      row('key', keys),
      ['key / empty frame', ratio(percentile(keys, 0.5) / percentile(frames, 0.5)), ratio(percentile(keys, 0.95) / percentile(frames, 0.95))],
      ['shown in the very next frame', `${Math.round((100 * sameFrame) / KEYS)} %`, ''],
    ]);
  }, job);
}
