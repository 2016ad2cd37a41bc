/** npm run shots: the pictures of docs/screenshots, made anew from the demo data at 1280 x 800. */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { clickGap, launchBrowser, openJob, openPage, removeFolder, root, startServer, temporaryFolder, waitForState } from './harness';

const folder = join(root, 'docs/screenshots');
mkdirSync(folder, { recursive: true });

const data = temporaryFolder();
const server = await startServer(data);
const browser = await launchBrowser();

/** Takes the picture once nothing is being set or loaded any more. */
async function shoot(page: Page, name: string): Promise<void> {
  await page.evaluate(() => Promise.all([document.fonts.ready, ...[...document.images].map((image) => image.decode())]));
  await page.waitForNetworkIdle({ idleTime: 300 });
  await page.screenshot({ path: join(folder, `${name}.png`) });
  console.log(`docs/screenshots/${name}.png`);
}

try {
  const { page } = await openPage(browser, server.url);
  await page.waitForSelector('.card-job img');
  await shoot(page, 'shelf');
  await openJob(page, 'Perseids');
  await clickGap(page, 'perseids-headline', 23);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.waitForSelector('.mark.by-hand');
  await waitForState(page, 'saved');
  await shoot(page, 'bench-kerning');
  for (const [key, pass, ready] of [
    ['t', 'tracking', '.trial path'],
    ['l', 'leading', '.ladder path'],
    ['w', 'words', '.rag li'],
  ] as const) {
    await page.keyboard.press(key);
    await page.waitForSelector(ready);
    await shoot(page, `bench-${pass}`);
  }
} finally {
  await browser.close();
  await server.kill();
  removeFolder(data);
}
