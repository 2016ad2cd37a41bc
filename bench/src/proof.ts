/** Pulls and comparing: keeping a state of a job of ten sheets, what hundreds of them cost the shelf, and a pull in the place of the sheet beside an empty frame. */
import { readFileSync } from 'node:fs';
import { readJobFile } from '@jentrix/core/formats';
import { compareJobs, revertChanges } from '@jentrix/core/compare';
import { type Job, allBlocks, restyle } from '@jentrix/core/job';
import { removeFolder, startServer, temporaryFolder } from '@jentrix/e2e/harness';
import { atTheBench } from './at-the-bench';
import { median, ms, percentile, printTable, ratio } from './table';

const PULLS = 300;
const HOLDS = 80;

/** Ten copies of the poster, each a sheet of its own. */
function tenSheets(): Job {
  const poster = readJobFile(readFileSync(new URL('../../demo/1-perseids-poster.jentrix.json', import.meta.url), 'utf8'));
  const sheets = Array.from({ length: 10 }, (_, i) =>
    poster.sheets.map((sheet) => ({ ...sheet, id: `${sheet.id}-${i}`, blocks: sheet.blocks.map((block) => ({ ...block, id: `${block.id}-${i}` })) })),
  ).flat();
  return { ...poster, sheets };
}

async function timed(task: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await task();
  return performance.now() - start;
}

async function benchKeeping(): Promise<void> {
  const data = temporaryFolder();
  const server = await startServer(data);
  try {
    const job = tenSheets();
    const send = async (path: string, body: unknown, method = 'POST') => {
      const response = await fetch(`${server.url}/api${path}`, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
      if (!response.ok) throw new Error(`${path} answered with ${response.status}`);
      return (await response.json()) as { id: string };
    };
    const { id } = await send('/jobs', { job });
    const shelf = async (): Promise<number> => {
      const times: number[] = [];
      for (let i = 0; i < 40; i++) times.push(await timed(async () => (await fetch(`${server.url}/api/jobs`)).json()));
      return percentile(times, 0.5);
    };
    await shelf();
    const before = await shelf();
    const [block] = allBlocks(job);
    const keeps: number[] = [];
    for (let i = 0; i < PULLS; i++) {
      const changed = restyle(job, block?.id ?? '', { trackingMilliem: i + 1 });
      keeps.push(await timed(() => send(`/jobs/${id}/pulls`, { job: changed })));
    }
    const after = await shelf();
    const lists: number[] = [];
    for (let i = 0; i < 20; i++) lists.push(await timed(async () => (await fetch(`${server.url}/api/jobs/${id}/pulls`)).json()));
    printTable(`Pulls of a job of ten sheets (${Math.round(JSON.stringify(job).length / 1024)} KB), one block changed from each to the next`, [
      ['', 'median', 'p95', 'aim'],
      ['keeping one', ms(percentile(keeps, 0.5)), ms(percentile(keeps, 0.95)), '<= 50 ms'],
      [`listing ${PULLS}`, ms(percentile(lists, 0.5)), ms(percentile(lists, 0.95)), ''],
      [`the shelf with ${PULLS} pulls over without any`, ratio(after / before), '', ''],
    ]);
    const changed = allBlocks(job).reduce((now, { id: blockId }) => restyle(now, blockId, { trackingMilliem: 20, kerning: 'shape' }), job);
    const changes = compareJobs(job, changed);
    const compared = median(40, () => void compareJobs(job, changed));
    const back = median(20, () => void revertChanges(job, changed, [changes[3]?.id ?? '']));
    printTable('Comparing two states of it', [
      ['', 'median'],
      [`finding ${changes.length} changes`, ms(compared)],
      ['giving one of them back', ms(back)],
    ]);
  } finally {
    await server.kill();
    removeFolder(data);
  }
}

async function benchHolding(): Promise<void> {
  await atTheBench(async (page) => {
    await page.keyboard.press('!');
    await page.waitForSelector('jx-proof-deck');
    await page.keyboard.press('*');
    await page.waitForSelector('[data-testid="pull"]');
    await page.keyboard.press(']');
    await page.waitForSelector('[data-testid="change"]');
    await new Promise((done) => setTimeout(done, 1500));
    await page.click('jx-table .surface');
    const { frames, holds } = await page.evaluate(async (count) => {
      const painted = async (): Promise<number> => {
        await new Promise((done) => requestAnimationFrame(done));
        return new Promise((done) => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => done(performance.now());
          port2.postMessage(undefined);
        });
      };
      const [frames, holds]: [number[], number[]] = [[], []];
      for (let i = 0; i < count; i++) {
        const start = performance.now();
        await painted();
        frames.push(performance.now() - start);
      }
      for (let i = 0; i < count; i++) {
        await new Promise((done) => setTimeout(done, 40 + (i % 16)));
        const start = performance.now();
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', code: 'Space', bubbles: true, cancelable: true }));
        for (;;) {
          const at = await painted();
          if (document.querySelector('jx-table [data-instead]')) {
            holds.push(at - start);
            break;
          }
          if (at - start > 2000) throw new Error('The pull did not show');
        }
        dispatchEvent(new KeyboardEvent('keyup', { key: ' ' }));
        await painted();
      }
      return { frames, holds };
    }, HOLDS);
    const row = (name: string, samples: readonly number[]): string[] => [name, ms(percentile(samples, 0.5)), ms(percentile(samples, 0.95)), ''];
    printTable('From now to a pull in place, keydown to painted frame', [
      ['', 'median', 'p95', 'aim'],
      row('empty frame', frames),
      row('the pull', holds),
      ['over an empty frame', ms(percentile(holds, 0.5) - percentile(frames, 0.5)), '', '<= 1 frame'],
    ]);
  });
}

export async function benchProof(): Promise<void> {
  await benchKeeping();
  await benchHolding();
}
