/** Jentrix without its server: what was seen opens, edits wait, and are sent when it is back. */
import type { Browser, Page } from 'puppeteer-core';
import {
  click,
  type RunningServer,
  launchBrowser,
  openJob,
  openPage,
  press,
  removeFolder,
  savedJob,
  startServer,
  temporaryFolder,
  waitForState,
  waitForText,
} from './harness';

describe('without the server', () => {
  let browser: Browser;
  let server: RunningServer;
  let data: string;
  let page: Page;
  let errors: string[];
  beforeAll(async () => (browser = await launchBrowser()));
  afterAll(() => browser.close());
  beforeEach(async () => {
    data = temporaryFolder();
    server = await startServer(data);
    const context = await browser.createBrowserContext();
    ({ page, errors } = await openPage(context as unknown as Browser, server.url, { offline: true }));
  });
  afterEach(async () => {
    await page.browserContext().close();
    await server.kill();
    removeFolder(data);
    expect(errors).toEqual([]);
  });

  it('shelf, bench, all passes and the faces at hand open, edits wait through a reload, and are sent when it is back', async () => {
    // Put by: five jobs and fifteen faces, none of which was opened.
    await page.waitForFunction(() => Object.keys(JSON.parse(localStorage.getItem('jentrix.offline') ?? '{}') as object).length >= 20, { timeout: 60_000 });
    const { port } = server;
    await server.kill();
    await page.reload();
    await page.waitForFunction(() => document.querySelector('.away')?.textContent.includes('The server can’t be reached'));
    expect((await page.$$('.card-job img')).length).toBe(5);
    await openJob(page, 'Open-day');
    await page.waitForFunction(() => document.querySelectorAll('jx-table [data-block] path').length > 60);
    expect(await page.$('.missing')).toBeNull();
    await click(page, 'jx-copy-column textarea');
    await page.keyboard.press('End');
    await page.keyboard.type('!');
    await waitForState(page, 'offline');
    await page.reload();
    await page.waitForSelector('jx-table [data-block] path');
    expect(await page.$eval('jx-copy-column textarea', ({ value }) => value)).toContain('!');
    for (const [pass, deck] of [
      ['Face', 'jx-face-deck'],
      ['Tracking', 'jx-tracking-deck'],
      ['Leading', 'jx-leading-deck'],
      ['Kerning', 'jx-kerning-deck'],
      ['Shift', 'jx-shift-deck'],
      ['Fit', 'jx-fit-deck'],
      ['Edges', 'jx-edges-deck'],
      ['Words', 'jx-words-deck'],
    ] as const) {
      await press(page, pass);
      await page.waitForSelector(deck);
    }
    server = await startServer(data, { port });
    await waitForState(page, 'saved');
    expect((await savedJob(page, server.url)).sheets[0]?.blocks.some(({ words }) => words.includes('!'))).toBeTrue();
    await page.goto(server.url);
    await page.waitForFunction(() => document.querySelector('.card-job') !== null && document.querySelector('.away') === null);
  });

  it('what was saved last is what opens, not what was seen first', async () => {
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null, { timeout: 60_000 });
    await openJob(page, 'Perseids');
    await page.waitForFunction(() => Object.keys(JSON.parse(localStorage.getItem('jentrix.offline') ?? '{}') as object).length >= 20, { timeout: 60_000 });
    await click(page, 'jx-copy-column textarea');
    await page.keyboard.type('Look: ');
    await waitForState(page, 'saved');
    const before = await savedJob(page, server.url);
    await page.waitForNetworkIdle({ idleTime: 300 });
    await server.kill();
    await page.reload();
    await page.waitForSelector('jx-table [data-block] path');
    const shown = await page.$$eval('jx-copy-column textarea', (fields) => fields.map(({ value }) => value));
    expect(shown).toEqual(before.sheets[0]?.blocks.map(({ words }) => words) ?? []);
    expect(shown.some((words) => words.includes('Look: '))).toBeTrue();
  });

  it('is installable: a manifest with icons that are there, and a worker that keeps the page', async () => {
    const manifest = (await (await fetch(`${server.url}/manifest.webmanifest`)).json()) as {
      icons: { src: string; sizes: string }[];
      start_url: string;
      display: string;
    };
    expect([manifest.start_url, manifest.display]).toEqual(['/', 'standalone']);
    expect(manifest.icons.some(({ sizes }) => sizes === '512x512')).toBeTrue();
    for (const { src } of manifest.icons) expect((await fetch(`${server.url}/${src}`)).status).toBe(200);
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null, { timeout: 60_000 });
    const client = await page.createCDPSession();
    const { installabilityErrors } = await client.send('Page.getInstallabilityErrors');
    // A browser without a window of its own can’t install; all else is there.
    expect(installabilityErrors.map(({ errorId }) => errorId).filter((id) => id !== 'in-incognito')).toEqual([]);
    await waitForText(page, 'h1', 'Shelf');
  });
});
