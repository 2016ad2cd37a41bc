/** The bench in Chromium with a job open, for measuring: it has a server of its own, and leaves nothing behind. */
import type { Job } from '@jentrix/core/job';
import type { Page } from 'puppeteer-core';
import { launchBrowser, openJob, openPage, removeFolder, startServer, temporaryFolder } from '@jentrix/e2e/harness';

/** The headline of the poster. */
export const HEADLINE = 'perseids-headline';

/** @param job one of its own, or part of the title of one of the demo's; its poster where none is said */
export async function atTheBench(measure: (page: Page) => Promise<void>, job: string | Job = 'Perseids'): Promise<void> {
  const data = temporaryFolder();
  const server = await startServer(data);
  const browser = await launchBrowser();
  try {
    const own = typeof job === 'string' ? undefined : await putOnShelf(job, server.url);
    const { page } = await openPage(browser, own ?? server.url);
    if (typeof job === 'string') await openJob(page, job);
    else await page.waitForSelector('jx-table [data-block] path');
    await measure(page);
  } finally {
    await browser.close();
    await server.kill();
    removeFolder(data);
  }
}

/** @returns where it opens */
async function putOnShelf(job: Job, url: string): Promise<string> {
  const response = await fetch(`${url}/api/jobs`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ job }) });
  if (!response.ok) throw new Error(`The job was not taken: ${response.status}`);
  const { id } = (await response.json()) as { id: string };
  return `${url}/jobs/${id}`;
}
