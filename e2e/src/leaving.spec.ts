import { click, eventually, openJob } from './harness';
import { journey } from './suite';

describe('leaving a page', () => {
  const current = journey();

  it('ends its workers, and one that is come back to sets what is typed', async () => {
    const { page, server } = current;
    await page.evaluateOnNewDocument(() => {
      const { terminate } = Worker.prototype;
      Worker.prototype.terminate = function (this: Worker): void {
        const key = `ended ${location.pathname}`;
        sessionStorage.setItem(key, String(Number(sessionStorage.getItem(key) ?? 0) + 1));
        terminate.call(this);
      };
    });
    // Other pages may have begun a worker of theirs, or not yet; and what a page writes that is left is seen by the next a moment later.
    const endedOf = async (address: string, count: number): Promise<void> => {
      const key = `ended ${new URL(address).pathname}`;
      const ended = (): Promise<number> => page.evaluate((name) => Number(sessionStorage.getItem(name)), key);
      expect(await eventually(ended, (now) => now >= count)).toBe(count);
    };
    // The worker of a job that is opened from the shelf is the application's, that of a job's address the document's.
    await page.goto(server.url, { waitUntil: 'load' });
    await openJob(page, 'Open-day');
    const address = page.url();
    await page.goto(`${server.url}/recipes`, { waitUntil: 'load' });
    await endedOf(address, 1);
    await page.goto(address, { waitUntil: 'load' });
    await page.waitForSelector('jx-table [data-block] path');
    await page.goto(`${server.url}/recipes`, { waitUntil: 'load' });
    await endedOf(address, 2);
    await page.goBack({ waitUntil: 'load' });
    await page.waitForSelector('jx-table [data-block] path');
    const letters = (): Promise<number> => page.$$eval('jx-table [data-block] path', ({ length }) => length);
    const before = await letters();
    await click(page, 'jx-copy-column textarea');
    await page.keyboard.press('End');
    await page.keyboard.type('nn');
    await page.waitForFunction((count) => document.querySelectorAll('jx-table [data-block] path').length === count + 2, {}, before);
  });

  it('a page that the browser has kept is loaded anew', async () => {
    const { page } = current;
    await page.waitForSelector('.card-job img');
    const [loaded] = await Promise.all([
      page.waitForNavigation({ waitUntil: 'load' }),
      page.evaluate(() => void dispatchEvent(new PageTransitionEvent('pageshow', { persisted: true }))),
    ]);
    expect(loaded?.ok()).toBeTrue();
    await page.waitForSelector('.card-job img');
  });
});
