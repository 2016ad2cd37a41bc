/** The bench on a processor slowed to a quarter (Chromium's throttling): until letters stand on the table, and the long tasks of kerning keys. */
import { clickGap } from '@jentrix/e2e/harness';
import { HEADLINE, atTheBench } from './at-the-bench';
import { ms, percentile, printTable, ratio } from './table';

const SLOWED = 4;
const OPENINGS = 7;
const KEYS = 30;
/** Chromium reports tasks from 50 ms on as long (W3C Long Tasks). */
const LONG_MS = 50;

export async function benchSlow(): Promise<void> {
  await atTheBench(async (page) => {
    const bench = page.url();
    const cdp = await page.createCDPSession();
    await page.setCacheEnabled(false);
    const letters = async (rate: number): Promise<number> => {
      await cdp.send('Emulation.setCPUThrottlingRate', { rate });
      await page.goto('about:blank');
      await page.goto(bench, { waitUntil: 'domcontentloaded' });
      const handle = await page.waitForFunction(() => document.querySelector('jx-table [data-block] path') && performance.now(), { polling: 'raf' });
      return Number(await handle.jsonValue());
    };
    const times = { plain: [] as number[], slowed: [] as number[] };
    for (let i = 0; i < OPENINGS; i++) {
      times.plain.push(await letters(1));
      times.slowed.push(await letters(SLOWED));
    }
    const [plain, slowed] = [percentile(times.plain, 0.5), percentile(times.slowed, 0.5)];
    await clickGap(page, HEADLINE, 23);
    const tasks = await page.evaluate(async (count) => {
      const found: number[] = [];
      const observer = new PerformanceObserver((list) => {
        for (const { duration } of list.getEntries()) found.push(duration);
      });
      observer.observe({ type: 'longtask' });
      for (let i = 0; i < count; i++) {
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key: i % 3 ? 'ArrowUp' : 'ArrowRight', code: 'Arrow', bubbles: true, cancelable: true }));
        await new Promise((done) => setTimeout(done, 250));
      }
      observer.disconnect();
      return found;
    }, KEYS);
    const rows = [
      ['', 'measured', 'aim'],
      ['letters on the table, cold', ms(plain), ''],
      [`the same, processor slowed to 1/${SLOWED}`, ms(slowed), '<= 2500 ms'],
      ['slowed / not slowed', ratio(slowed / plain), ''],
      [`tasks over ${LONG_MS} ms at ${KEYS} kerning keys, slowed`, String(tasks.filter((time) => time > LONG_MS).length), '0'],
      ['the longest of them', tasks.length > 0 ? ms(Math.max(...tasks)) : '-', ''],
    ];
    printTable(`The bench on a slow machine (medians of ${OPENINGS})`, rows);
  });
}
