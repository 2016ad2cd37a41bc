/** The bench in Chromium with a job of the demo open, its poster where none is said, for measuring: it has a server of its own, and leaves nothing behind. */
import type { Page } from 'puppeteer-core';
import { launchBrowser, openJob, openPage, removeFolder, startServer, temporaryFolder } from '@jentrix/e2e/harness';

/** The headline of the poster. */
export const HEADLINE = 'perseids-headline';

export async function atTheBench(measure: (page: Page) => Promise<void>, title = 'Perseids'): Promise<void> {
  const data = temporaryFolder();
  const server = await startServer(data);
  const browser = await launchBrowser();
  try {
    const { page } = await openPage(browser, server.url);
    await openJob(page, title);
    await measure(page);
  } finally {
    await browser.close();
    await server.kill();
    removeFolder(data);
  }
}
