import { jobPageSchema } from '@jentrix/core/api';
import type { Page, Viewport } from 'puppeteer-core';
import { dialogGone, prefer, press } from './harness';
import { focusFault, layoutFaults } from './layout';
import { journey } from './suite';

/** All jobs in all passes take their time, in milliseconds. */
const LONG = 240_000;

describe('a walk through everything', () => {
  const current = journey();

  const WINDOWS = {
    'a screen': [
      { name: '1280x800', width: 1280, height: 800 },
      { name: '1024x700', width: 1024, height: 700 },
      { name: '1920x1080', width: 1920, height: 1080 },
      // 1280x800 at 200 %.
      { name: '640x400', width: 640, height: 400 },
    ],
    'a tablet': [{ name: '1024x768', width: 1024, height: 768, hasTouch: true }],
  } as const satisfies Record<string, readonly (Viewport & { name: string })[]>;

  /** The faults left once the page has come to rest. */
  async function faultsOf(page: Page): Promise<string[]> {
    let faults: string[] = [];
    for (let i = 0; i < 12; i++) {
      faults = await page.evaluate(layoutFaults);
      if (faults.length === 0) break;
      await new Promise((later) => setTimeout(later, 100));
    }
    return faults;
  }

  const keysOfPasses = (page: Page): Promise<string[]> => page.$$eval('jx-pass-rail button', (all) => all.map(({ title }) => title.slice(-1).toLowerCase()));

  async function showPass(page: Page, key: string): Promise<void> {
    await page.keyboard.press(key as 'k');
    await page.waitForFunction((name) => document.querySelector('jx-pass-rail .current')?.getAttribute('title')?.toLowerCase().endsWith(name), {}, key);
    await page.waitForSelector('.deck .deck-body');
    // The instrument with a gap in it.
    if (key === 'k') await page.keyboard.press('ArrowRight');
  }

  for (const [device, windows] of Object.entries(WINDOWS))
    it(
      `finds every control in reach and every word whole in each pass of each job, however large the window: ${device}`,
      async () => {
        const { page } = current;
        await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }]);
        await prefer(current.server.url, { theme: device === 'a tablet' ? 'dark' : 'light' });
        const found: string[] = [];
        let opened = 0;
        /** Opens a page in one window after the other, in turn. */
        const open = async (path: string, ready: string): Promise<void> => {
          const { name: _name, ...view } = windows[opened++ % windows.length]!;
          await page.setViewport(view);
          await page.goto(`${current.server.url}/${path}`, { waitUntil: 'load' });
          await page.waitForSelector(ready);
        };
        /** Looks at what is shown, first in the window it was opened in, then in the others. */
        const look = async (where: string): Promise<void> => {
          for (let i = 0; i < windows.length; i++) {
            const { name, ...view } = windows[(opened - 1 + i) % windows.length]!;
            await page.setViewport(view);
            found.push(...(await faultsOf(page)).map((fault) => `${where}, ${name}: ${fault}`));
          }
        };
        for (const [path, ready] of [
          ['', '.card-job img'],
          ['type-case', '.faces li'],
          ['recipes', 'main section, .empty'],
          ['drill', '.mover'],
        ] as const) {
          await open(path, ready);
          await look(path || 'shelf');
        }
        await open('', '.card-job img');
        await press(page, 'New job');
        await page.waitForSelector('jx-new-job-dialog .modal-footer');
        await look('new job');
        await press(page, 'Create');
        await page.waitForSelector('jx-table [data-block] path');
        await dialogGone(page);
        const { items } = jobPageSchema.parse(await (await fetch(`${current.server.url}/api/jobs`)).json());
        expect(items.length).toBe(6);
        for (const { id, title } of items) {
          await open(`jobs/${id}`, 'jx-table [data-block] path');
          for (const key of await keysOfPasses(page)) {
            await showPass(page, key);
            await look(`${title}, pass ${key}`);
          }
        }
        expect([...new Set(found)]).toEqual([]);
      },
      LONG,
    );

  it(
    'meets every control of every deck with Tab alone, each in view and with a ring',
    async () => {
      const { page } = current;
      await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }]);
      const found: string[] = [];
      const { items } = jobPageSchema.parse(await (await fetch(`${current.server.url}/api/jobs`)).json());
      const poster = items.find(({ title }) => title.includes('Perseids'));
      await page.goto(`${current.server.url}/jobs/${poster?.id ?? ''}`, { waitUntil: 'load' });
      await page.waitForSelector('jx-table [data-block] path');
      for (const key of await keysOfPasses(page)) {
        await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
        await showPass(page, key);
        await faultsOf(page);
        /** Goes from the first control to the last. @returns what was never met yet */
        const tabThrough = async (): Promise<string[]> => {
          let tabs = 0;
          for (; tabs < 200; tabs++) {
            await page.keyboard.press('Tab');
            const fault = await page.evaluate(focusFault);
            if (fault === undefined) break;
            if (fault) found.push(`pass ${key}: ${fault}`);
          }
          expect(tabs).withContext(`from the first to the last control, pass ${key}`).toBeLessThan(200);
          return page.$$eval('.deck :is(button, input:not([type=file], [type=radio]), select, a[href]):not(:disabled, [tabindex="-1"], [data-met])', (all) =>
            all.filter((one) => one.checkVisibility()).map((one) => `${one.tagName} ${one.getAttribute('aria-label') ?? one.textContent.trim()}`),
          );
        };
        let missed = await tabThrough();
        // What was still being computed came behind the focus.
        if (missed.length > 0) missed = await tabThrough();
        found.push(...missed.map((one) => `pass ${key}: never met: ${one}`));
      }
      expect(found).toEqual([]);
    },
    LONG,
  );
});
