import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { jobPageSchema, jobRecordSchema } from '@jentrix/core/api';
import { findBlock, restyle, retitle } from '@jentrix/core/job';
import { sized } from '@jentrix/core/testing';
import puppeteer, { type Browser } from 'puppeteer-core';
import { click, chromiumOptions, clickGap, handOver, jobIdOf, openJob, openPage, removeFolder, startServer, temporaryFolder, waitForState } from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';
const VA = 23;

/** How many servers are killed one after the other. */
const KILLED = sized(5, 20);

describe('what is killed', () => {
  it(`loses no acknowledged write: ${KILLED} servers killed while they save, and others refused their folder`, async () => {
    const data = temporaryFolder();
    try {
      let server = await startServer(data);
      const { items } = jobPageSchema.parse(await (await fetch(`${server.url}/api/jobs`)).json());
      const id = items[0]?.id ?? '';
      let acknowledged = 0;
      let revision = 1;
      for (let round = 0; round < KILLED; round++) {
        const url = `${server.url}/api/jobs/${id}`;
        const found = jobRecordSchema.parse(await (await fetch(url)).json());
        // What was acknowledged is there; at most one write more, whose answer was cut off.
        const written = Number(/\d+/.exec(found.job.title)?.[0] ?? 0);
        expect(written - acknowledged)
          .withContext(`round ${round}`)
          .toBeGreaterThanOrEqual(0);
        expect(written - acknowledged)
          .withContext(`round ${round}`)
          .toBeLessThanOrEqual(1);
        expect(found.revision - revision).toBe(written - acknowledged);
        [acknowledged, revision] = [written, found.revision];
        const deadline = performance.now() + 20 + round * 7;
        const state = { alive: true };
        const writing = (async () => {
          while (state.alive) {
            const body = JSON.stringify({ job: retitle(found.job, `Write ${acknowledged + 1}`) });
            const answer = await fetch(url, { method: 'PUT', headers: { 'content-type': 'application/json', 'if-match': `"${revision}"` }, body }).catch(
              () => undefined,
            );
            if (answer?.status !== 200) return;
            acknowledged++;
            revision++;
          }
        })();
        if (round % 7 === 3) await expectAsync(startServer(data, { demo: false })).toBeRejectedWithError(/already runs on the data folder/);
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, deadline - performance.now())));
        await server.kill();
        state.alive = false;
        await writing;
        server = await startServer(data, { demo: false });
      }
      expect(acknowledged).toBeGreaterThan(KILLED);
      await server.kill();
    } finally {
      removeFolder(data);
    }
  }, 400_000);

  it('loses no edit: a window killed in the moment after the last key, whose edits another page sends', async () => {
    const data = temporaryFolder();
    const profile = join(data, 'profile');
    mkdirSync(profile);
    let server = await startServer(data);
    const { port } = server;
    const browser = await puppeteer.launch({ ...chromiumOptions(), userDataDir: profile });
    try {
      const { page } = await openPage(browser, server.url);
      await openJob(page, 'Perseids');
      const id = jobIdOf(page);
      await clickGap(page, HEADLINE, VA);
      await server.kill();
      for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowDown');
      const other = await browser.newPage();
      const session = await browser.target().createCDPSession();
      const { processInfo } = await session.send('SystemInfo.getProcessInfo');
      await page.bringToFront();
      await page.keyboard.press('ArrowDown');
      for (const { type, id: pid } of processInfo) if (type === 'renderer') process.kill(pid, 'SIGKILL');
      await other.close().catch(() => undefined);
      server = await startServer(data, { port });
      const again = await browser.newPage();
      await again.goto(server.url);
      await again.waitForSelector('.card-job');
      // Nothing but the shelf is open.
      for (let i = 0; ; i++) {
        const { job } = jobRecordSchema.parse(await (await fetch(`${server.url}/api/jobs/${id}`)).json());
        const hand = findBlock(job, HEADLINE)?.hand ?? [];
        if (hand.length > 0 || i > 200) {
          expect(hand).toEqual([{ at: VA, milliem: -16 }]);
          break;
        }
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    } finally {
      await browser.close();
      await server.kill();
      removeFolder(data);
    }
  }, 400_000);
});

describe('two people with one job', () => {
  const current = journey();

  it('lose nothing: windows that are closed with unsent edits and opened again, while somebody else edits', async () => {
    const id = jobPageSchema.parse(await (await fetch(`${current.server.url}/api/jobs`)).json()).items[0]?.id ?? '';
    const read = async () => jobRecordSchema.parse(await (await fetch(`${current.server.url}/api/jobs/${id}`)).json());
    const context = current.page.browserContext();
    let tracking = 0;
    let hand = 0;
    for (let round = 0; round < 4; round++) {
      const { page } = await openPage(context as unknown as Browser, `${current.server.url}/jobs/${id}`);
      await page.waitForSelector('jx-table [data-block] path');
      await clickGap(page, HEADLINE, VA);
      await page.setOfflineMode(round % 2 === 0);
      await page.keyboard.press('ArrowDown');
      hand -= 2;
      await waitForState(page, round % 2 === 0 ? 'offline' : 'saved');
      await page.close();
      tracking += 7;
      // The shelf that is open meanwhile sends what the closed window has not sent: then what was read is read anew.
      for (let answer = 412; answer !== 200;) {
        const { revision, job } = await read();
        const headers = { 'content-type': 'application/json', 'if-match': `"${revision}"` };
        const body = JSON.stringify({ job: restyle(job, 'perseids-date', { trackingMilliem: tracking }) });
        answer = (await fetch(`${current.server.url}/api/jobs/${id}`, { method: 'PUT', headers, body })).status;
        expect([200, 412]).withContext(`round ${round}`).toContain(answer);
      }
      const { page: again } = await openPage(context as unknown as Browser, `${current.server.url}/jobs/${id}`);
      await again.waitForSelector('jx-table [data-block] path');
      await waitForState(again, 'saved');
      expect(await again.$('jx-conflict-dialog')).toBeNull();
      await again.close();
      const now = (await read()).job;
      expect([findBlock(now, HEADLINE)?.hand.find(({ at }) => at === VA)?.milliem, findBlock(now, 'perseids-date')?.style.trackingMilliem])
        .withContext(`round ${round}`)
        .toEqual([hand, tracking]);
    }
  }, 400_000);
});

describe('while the server is away', () => {
  const current = journey();

  it('the shelf says whose edits wait, and sends them when it is back', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    const { port } = current.server;
    await current.server.kill();
    await page.keyboard.press('ArrowDown');
    await waitForState(page, 'offline');
    await click(page, 'a[href="/"]');
    await page.waitForFunction(() => document.querySelector('.unsent')?.textContent.includes('Perseids'));
    expect(await page.$eval('.unsent', (strip) => strip.textContent)).toContain('not saved yet');
    current.server = await startServer(current.data, { port });
    await page.waitForFunction(() => document.querySelector('.unsent') === null);
  });
});

describe('a renderer that dies', () => {
  const current = journey();

  it('is told in words to whoever exports, noticed by nobody else, and replaced', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-masthead .state[data-state="saved"]');
    /** The server's own processes, by what they were started with. */
    const processes = (): number[] =>
      readdirSync('/proc').flatMap((pid) => {
        try {
          const isChild =
            readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('server/bin/child.mjs') &&
            readFileSync(`/proc/${pid}/stat`, 'utf8').includes(` ${current.server.pid} `);
          return isChild ? [Number(pid)] : [];
        } catch {
          return [];
        }
      });
    await handOver(page, 'PNG', '3×');
    await page.waitForFunction(() => [...document.querySelectorAll('button')].some((button) => button.textContent.includes('Handing over')));
    // It begins once it has the job: every process of the server is killed until the export has failed.
    const failed = page.waitForFunction(() => [...document.querySelectorAll('ngb-toast')].some((toast) => toast.textContent.includes('stopped')));
    const state = { over: false };
    void failed.then(() => (state.over = true));
    while (!state.over) {
      for (const pid of processes()) {
        try {
          process.kill(pid, 'SIGKILL');
        } catch {
          // It has just ended.
        }
      }
      const answer = await fetch(`${current.server.url}/api/jobs`);
      expect(answer.status).toBe(200);
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
    expect(await page.$$eval('ngb-toast', (toasts) => toasts.map((toast) => toast.textContent).join())).toContain('Saved work is safe');
    const png = await fetch(`${current.server.url}/api/jobs/${jobIdOf(page)}/sheets/perseids-a2/png?scale=1`);
    expect(png.status).toBe(200);
    expect(execFileSync('kill', ['-0', String(current.server.pid)]).toString()).toBe('');
  });
});
