import { renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { jobPageSchema, jobRecordSchema } from '@jentrix/core/api';
import { type Job, findBlock, restyle, withHand } from '@jentrix/core/job';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import {
  click,
  clickGap,
  dialogGone,
  eventually,
  jobIdOf,
  openJob,
  openPage,
  press,
  removeFolder,
  startServer,
  totalOfGap,
  typeInto,
  waitForState,
  waitForWords,
} from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';
const VA = 23;

describe('nothing that was made is lost', () => {
  const current = journey();

  const hand = async (id: string) => {
    const response = await fetch(`${current.server.url}/api/jobs/${id}`);
    return findBlock(jobRecordSchema.parse(await response.json()).job, HEADLINE)?.hand;
  };
  const total = async () => jobPageSchema.parse(await (await fetch(`${current.server.url}/api/jobs`)).json()).total;
  const closeBy = async (page: Page, times: number): Promise<void> => {
    for (let i = 0; i < times; i++) await page.keyboard.press('ArrowDown');
  };

  it('keeps edits while the server is away and sends them when it is back', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    const id = jobIdOf(page);
    await clickGap(page, HEADLINE, VA);
    const { port } = current.server;
    await current.server.kill();
    await closeBy(page, 3);
    await waitForState(page, 'offline');
    await closeBy(page, 2);
    current.server = await startServer(current.data, { port });
    await waitForState(page, 'saved');
    expect(await hand(id)).toEqual([{ at: VA, milliem: -10 }]);
  });

  it('parts of the page that could not be had beforehand are asked for again when they are wanted, and told of when they are missing', async () => {
    const { page } = current;
    // The time in which they would be had beforehand comes when this says so.
    await page.evaluateOnNewDocument(() => {
      const due: (() => void)[] = [];
      Object.assign(globalThis, { requestIdleCallback: (done: () => void) => due.push(done), idleNow: () => due.splice(0).forEach((done) => done()) });
    });
    await page.reload();
    await openJob(page, 'Perseids');
    await page.setOfflineMode(true);
    await page.evaluate('idleNow()');
    // The server is back by the time that one is wanted …
    await page.setOfflineMode(false);
    await press(page, 'Find and replace');
    await page.waitForSelector('jx-find-panel');
    // … and away while another is.
    await page.setOfflineMode(true);
    await press(page, 'Leading');
    await waitForWords(page, 'jx-toasts', 'Part of this page is missing');
    await page.setOfflineMode(false);
    await Promise.all([page.waitForNavigation(), press(page, 'Reload')]);
    await page.waitForSelector('jx-table [data-block] path');
    await press(page, 'Leading');
    await page.waitForSelector('jx-leading-deck');
    await page.waitForSelector('g[jxLines] *');
  });

  it('finds edits again that a closed window could not send', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    const id = jobIdOf(page);
    await clickGap(page, HEADLINE, VA);
    const { port } = current.server;
    await current.server.kill();
    await closeBy(page, 4);
    await waitForState(page, 'offline');
    const context = page.browserContext();
    const other = await context.newPage();
    await page.close();
    current.server = await startServer(current.data, { port });
    expect(await hand(id)).toEqual([]);
    await other.goto(`${current.server.url}/jobs/${id}`);
    await other.waitForSelector('jx-table [data-block] path');
    await waitForState(other, 'saved');
    expect(await hand(id)).toEqual([{ at: VA, milliem: -8 }]);
  });

  /** Edits a gap of a block without the server, and closes the window. @returns the job, as it is on the server, and what opens it anew */
  async function leftUnsent(
    block: string,
    at: number,
  ): Promise<{ id: string; open: () => Promise<Page>; write: (change: (job: Job) => Job) => Promise<void> }> {
    const { page } = current;
    await openJob(page, 'Perseids');
    const id = jobIdOf(page);
    const address = page.url();
    await page.setOfflineMode(true);
    await clickGap(page, block, at);
    await closeBy(page, 4);
    await waitForState(page, 'offline');
    const context = page.browserContext();
    const { page: other } = await openPage(context as unknown as Browser, 'about:blank');
    await page.close();
    return {
      id,
      open: async () => {
        await other.goto(address);
        await other.waitForSelector('jx-table [data-block] path');
        return other;
      },
      write: async (change) => {
        const { revision, job } = jobRecordSchema.parse(await (await fetch(`${current.server.url}/api/jobs/${id}`)).json());
        const headers = { 'content-type': 'application/json', 'if-match': `"${revision}"` };
        const { status } = await fetch(`${current.server.url}/api/jobs/${id}`, { method: 'PUT', headers, body: JSON.stringify({ job: change(job) }) });
        expect(status).toBe(200);
      },
    };
  }
  const handsOf = async (id: string, block: string) =>
    findBlock(jobRecordSchema.parse(await (await fetch(`${current.server.url}/api/jobs/${id}`)).json()).job, block)?.hand;

  it('edits of a closed window and of somebody else in another block are put together without a question', async () => {
    const { id, open, write } = await leftUnsent(HEADLINE, VA);
    await write((job) => restyle(job, 'perseids-date', { trackingMilliem: 37 }));
    const page = await open();
    await waitForState(page, 'saved');
    expect(await page.$('jx-conflict-dialog')).toBeNull();
    const saved = jobRecordSchema.parse(await (await fetch(`${current.server.url}/api/jobs/${id}`)).json()).job;
    expect([findBlock(saved, HEADLINE)?.hand, findBlock(saved, 'perseids-date')?.style.trackingMilliem]).toEqual([[{ at: VA, milliem: -8 }], 37]);
  });

  it('edits of a closed window and of somebody else in the same block: both are shown and kept as pulls, and mine keeps what else was changed', async () => {
    const { id, open, write } = await leftUnsent(HEADLINE, VA);
    await write((job) => withHand(restyle(job, 'perseids-date', { trackingMilliem: 37 }), HEADLINE, VA + 1, 15));
    const page = await open();
    await page.waitForFunction(() => document.querySelectorAll('jx-conflict-dialog figure path').length > 20);
    await waitForWords(page, 'jx-conflict-dialog', 'Both versions are kept as pulls');
    const listed = (await (await fetch(`${current.server.url}/api/jobs/${id}/pulls`)).json()) as { items: { name: string; reason: string }[] };
    expect(listed.items.map(({ reason }) => reason)).toEqual(['conflict', 'conflict']);
    await click(page, 'jx-conflict-dialog .btn-dark');
    await waitForState(page, 'saved');
    const saved = jobRecordSchema.parse(await (await fetch(`${current.server.url}/api/jobs/${id}`)).json()).job;
    expect([await handsOf(id, HEADLINE), findBlock(saved, 'perseids-date')?.style.trackingMilliem]).toEqual([[{ at: VA, milliem: -8 }], 37]);
  });

  it('who else has the job open is told, with the block, until they leave', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    const context = await current.browser.createBrowserContext();
    try {
      const { page: theirs } = await openPage(context as unknown as Browser, page.url());
      await theirs.waitForSelector('jx-table [data-block] path');
      await click(theirs, 'jx-copy-column [data-block="perseids-date"] textarea');
      await page.bringToFront();
      await waitForWords(page, 'jx-who-is-here', 'Someone else is here: “12 & 13 August');
      await theirs.goto('about:blank');
      await page.waitForFunction(() => document.querySelector('jx-who-is-here') === null);
    } finally {
      await context.close().catch(() => undefined);
    }
  });

  it('a data folder that goes is told of; edits stay in the browser, and it is written again when somebody says so', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    const id = jobIdOf(page);
    await clickGap(page, HEADLINE, VA);
    renameSync(current.data, `${current.data}-moved`);
    try {
      await closeBy(page, 2);
      await waitForWords(page, '.state[data-state="offline"]', 'Not saved: kept in this browser');
      await press(page, 'Write data again');
      await waitForState(page, 'saved');
      expect(await hand(id)).toEqual([{ at: VA, milliem: -4 }]);
    } finally {
      removeFolder(`${current.data}-moved`);
    }
  });

  it('undo says what it takes back, and survives a reload', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    const id = jobIdOf(page);
    await clickGap(page, HEADLINE, VA);
    await closeBy(page, 4);
    await waitForState(page, 'saved');
    const named = (): Promise<unknown> => page.waitForFunction(() => document.querySelector('button[aria-label^="Undo kerning of “VA” −8"]:not(:disabled)'));
    await named();
    await page.reload();
    await page.waitForSelector('jx-table [data-block] path');
    await named();
    await press(page, 'Undo');
    expect(
      await eventually(
        () => hand(id),
        (now) => now?.[0]?.milliem !== -8,
      ),
    ).not.toEqual([{ at: VA, milliem: -8 }]);
  });

  /** One job in two windows. */
  async function opened(): Promise<{ id: string; mine: Page; theirs: Page }> {
    const { page: mine } = current;
    await openJob(mine, 'Perseids');
    const id = jobIdOf(mine);
    const theirs = await mine.browserContext().newPage();
    await theirs.goto(mine.url());
    await theirs.waitForSelector('jx-table [data-block] path');
    return { id, mine, theirs };
  }

  async function twoWindows(): Promise<{ id: string; mine: Page; theirs: Page }> {
    const { id, mine, theirs } = await opened();
    // What is saved there would be here at once: this window hears of nothing for a while.
    await mine.bringToFront();
    await mine.setOfflineMode(true);
    await clickGap(mine, HEADLINE, VA + 1);
    await closeBy(mine, 1);
    await waitForState(mine, 'offline');
    await theirs.bringToFront();
    await clickGap(theirs, HEADLINE, VA);
    await closeBy(theirs, 5);
    await waitForState(theirs, 'saved');
    await mine.bringToFront();
    await mine.setOfflineMode(false);
    const dialog = await mine.waitForSelector('jx-conflict-dialog');
    expect(await dialog?.evaluate((element) => element.textContent)).toContain('Different settings: “TWO NIGHTS”');
    await mine.waitForFunction(() => document.querySelectorAll('jx-conflict-dialog figure path').length > 20);
    expect(await dialog?.$$eval('figcaption', (all) => all.map((one) => one.textContent))).toEqual(['Mine', 'Theirs']);
    return { id, mine, theirs };
  }

  it('two windows see what is saved in the other without a reload, edits of different blocks are put together, and undo takes back only one’s own', async () => {
    const { id, mine, theirs } = await opened();
    const drawn = (page: Page): Promise<string> =>
      page.$eval(`jx-table [data-block="${HEADLINE}"]`, (block) => [...block.querySelectorAll('path')].map((path) => path.getAttribute('d')).join());
    const before = await drawn(mine);
    await theirs.bringToFront();
    await clickGap(theirs, HEADLINE, VA);
    await closeBy(theirs, 5);
    await waitForState(theirs, 'saved');
    // The other window shows it once it is seen, with nothing to undo.
    await mine.bringToFront();
    await mine.waitForFunction(
      (css, old) => [...(document.querySelector(css)?.querySelectorAll('path') ?? [])].map((path) => path.getAttribute('d')).join() !== old,
      {},
      `jx-table [data-block="${HEADLINE}"]`,
      before,
    );
    expect(await drawn(mine)).toBe(await drawn(theirs));
    expect(await mine.$eval('button[aria-label^="Undo"]', (button) => button.disabled)).toBeTrue();

    // Another block is edited here, while this window hears of nothing.
    const other = 'perseids-date';
    await mine.bringToFront();
    await mine.setOfflineMode(true);
    await clickGap(mine, other, 10);
    await closeBy(mine, 2);
    await waitForState(mine, 'offline');
    await theirs.bringToFront();
    await closeBy(theirs, 1);
    await waitForState(theirs, 'saved');
    await mine.bringToFront();
    await mine.setOfflineMode(false);
    await waitForState(mine, 'saved');
    const saved = jobRecordSchema.parse(await (await fetch(`${current.server.url}/api/jobs/${id}`)).json()).job;
    expect(findBlock(saved, HEADLINE)?.hand).toEqual([{ at: VA, milliem: -12 }]);
    expect(findBlock(saved, other)?.hand).toEqual([{ at: 10, milliem: -4 }]);
    await press(mine, 'Undo');
    const ask = async () => jobRecordSchema.parse(await (await fetch(`${current.server.url}/api/jobs/${id}`)).json()).job;
    const undone = await eventually(ask, (job) => findBlock(job, other)?.hand.find(({ at }) => at === 10)?.milliem !== -4);
    expect(findBlock(undone, HEADLINE)?.hand).toEqual([{ at: VA, milliem: -12 }]);
  });

  it('offers both versions in a conflict: mine goes on', async () => {
    const { id, mine } = await twoWindows();
    await click(mine, 'jx-conflict-dialog .btn-dark');
    await waitForState(mine, 'saved');
    expect(await hand(id)).toEqual([{ at: VA + 1, milliem: -2 }]);
  });

  it('offers both versions in a conflict: theirs is taken, and undo brings mine back', async () => {
    const { id, mine } = await twoWindows();
    await press(mine, 'Keep theirs');
    await waitForState(mine, 'saved');
    expect(await hand(id)).toEqual([{ at: VA, milliem: -10 }]);
    // The dialog covers the page until it has gone.
    await dialogGone(mine);
    await press(mine, 'Undo');
    expect(
      await eventually(
        () => hand(id),
        (now) => now?.[0]?.at === VA + 1,
      ),
    ).toEqual([{ at: VA + 1, milliem: -2 }]);
  });

  it('offers both versions in a conflict: mine becomes a job of its own', async () => {
    const { id, mine } = await twoWindows();
    await press(mine, 'Save mine as copy');
    // The bench shows the job that it was until the other is there.
    await mine.waitForFunction(
      () => document.querySelector('jx-masthead h1')?.textContent.endsWith('(mine)') && document.querySelector('jx-table [data-block] path'),
    );
    expect(jobIdOf(mine)).not.toBe(id);
    expect(await hand(id)).toEqual([{ at: VA, milliem: -10 }]);
    expect(await hand(jobIdOf(mine))).toEqual([{ at: VA + 1, milliem: -2 }]);
    await clickGap(mine, HEADLINE, VA + 1);
    const before = await totalOfGap(mine);
    await closeBy(mine, 1);
    await totalOfGap(mine, before);
    await waitForState(mine, 'saved');
    expect(await hand(jobIdOf(mine))).toEqual([{ at: VA + 1, milliem: -4 }]);
  });

  it('refuses damaged job files with a reason, and opens a good one', async () => {
    const { page } = current;
    await page.waitForSelector('.card-job');
    const offer = async (name: string, text: string): Promise<void> => {
      const file = join(current.data, name);
      writeFileSync(file, text);
      const input = (await page.$('input[type="file"]')) as ElementHandle<HTMLInputElement>;
      await input.uploadFile(file);
    };
    const said = async (part: string): Promise<void> => {
      await page.waitForFunction((wanted) => [...document.querySelectorAll('ngb-toast')].some((toast) => toast.textContent.includes(wanted)), {}, part);
    };
    const items = jobPageSchema.parse(await (await fetch(`${current.server.url}/api/jobs`)).json()).items;
    const id = items.find(({ title }) => title.includes('Perseids'))!.id;
    const good = await (await fetch(`${current.server.url}/api/jobs/${id}/file`)).text();
    await offer('cut.jentrix.json', good.slice(0, 900));
    await said('not JSON');
    await offer('strange.json', '{"hello": 1}');
    await said('not a Jentrix job');
    await offer('bent.jentrix.json', good.replace('"sizePt": 122', '"sizePt": "big"'));
    await said('blocks.0.style.sizePt');
    expect(await total()).toBe(items.length);
    expect(new URL(page.url()).pathname).toBe('/');
    await offer('good.jentrix.json', good);
    await page.waitForSelector('jx-table [data-block] path');
    expect(await total()).toBe(items.length + 1);
  });

  it('sorts out the shelf: search, duplicate, trash and back', async () => {
    const { page } = current;
    await page.waitForSelector('.card-job');
    const shown = () => page.$$eval('.card-job b', (titles) => titles.map((title) => title.textContent.trim()));
    const until = (count: number) => page.waitForFunction((wanted) => document.querySelectorAll('.card-job').length === wanted, {}, count);
    await typeInto(page, 'input[type="search"]', 'perse');
    await until(1);
    await press(page, 'More for');
    await press(page, 'Duplicate');
    await until(2);
    expect((await shown()).sort()).toEqual(['Wrayfold: Perseids poster', 'Wrayfold: Perseids poster copy']);
    await press(page, 'More for Wrayfold: Perseids poster copy');
    await press(page, 'Move to trash');
    await until(1);
    await press(page, 'Trash');
    await page.waitForFunction(() => document.querySelector('.card-job b')?.textContent.includes('copy'));
    await press(page, 'Restore');
    await page.waitForFunction(() => document.body.textContent.includes('The trash is empty') || document.body.textContent.includes('No jobs match'));
    await press(page, 'Shelf');
    await until(2);
    await page.$eval('input[type="search"]', (input) => (input.value = ''));
    await typeInto(page, 'input[type="search"]', 'zzz');
    await page.waitForFunction(() => document.body.textContent.includes('No jobs match “zzz”'));
  });

  it('begins a new job, adds copy and names a face that is missing', async () => {
    const { page } = current;
    await press(page, 'New job');
    await press(page, 'Create');
    await page.waitForSelector('jx-table [data-block] path');
    await press(page, 'Add copy');
    await page.waitForFunction(() => document.querySelectorAll('jx-copy-column section').length === 2);
    await page.keyboard.type('Tonight');
    await page.waitForFunction(() =>
      [...document.querySelectorAll('jx-table [data-block]')].some((block) => block.getAttribute('aria-label')?.startsWith('Tonight')),
    );
    await waitForState(page, 'saved');
    const id = jobIdOf(page);
    const url = `${current.server.url}/api/jobs/${id}`;
    const record = jobRecordSchema.parse(await (await fetch(url)).json());
    record.job.sheets[0]!.blocks[0]!.style.faceId = 'gone-face';
    await fetch(url, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', 'if-match': `"${record.revision}"` },
      body: JSON.stringify({ job: record.job }),
    });
    await page.reload();
    await page.waitForFunction(() => document.querySelector('.missing')?.textContent.includes('Gone Face'));
    expect((await page.$$('jx-table [data-block] path')).length).toBeGreaterThan(10);
  });
});
