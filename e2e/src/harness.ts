/** A real server on a fresh database and the real page in headless Chromium. */
import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { createInterface } from 'node:readline';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { jobRecordSchema } from '@jentrix/core/api';
import type { Job } from '@jentrix/core/job';
import puppeteer, { type BoundingBox, type Browser, type ElementHandle, type LaunchOptions, type Page } from 'puppeteer-core';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

export interface RunningServer {
  url: string;
  port: number;
  pid: number;
  /** Ends the process; its data stays. */
  kill(): Promise<void>;
}

/** Starts the server on a port (0: a free one) and a data folder, and waits until it says that it is ready. */
export function startServer(
  data: string,
  {
    port = 0,
    demo = true,
    hints = false,
    env = {},
    onError,
  }: { port?: number; demo?: boolean; hints?: boolean; env?: Record<string, string>; onError?: (line: string) => void } = {},
): Promise<RunningServer> {
  if (demo) copySeeded(data);
  const child: ChildProcess = spawn(process.execPath, ['server/bin/server.mjs'], {
    cwd: root,
    env: { ...process.env, JENTRIX_DATA: data, JENTRIX_PORT: String(port), JENTRIX_DEMO: demo ? '1' : '0', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  let started = false;
  return new Promise((ready, fail) => {
    const read = (chunk: Buffer): void => {
      output += chunk.toString();
      const match = /ready at (http:\/\/[^:]+:(\d+))/.exec(output);
      if (!match || started) return;
      started = true;
      const server = { url: match[1] ?? '', port: Number(match[2]), pid: child.pid ?? 0, kill: () => end(child) };
      // Whoever tests something else has read the hints.
      (hints ? Promise.resolve() : prefer(server.url, { hints: false })).then(() => ready(server), fail);
    };
    child.stdout?.on('data', read);
    child.stderr?.on('data', read);
    if (onError && child.stderr) createInterface({ input: child.stderr }).on('line', onError);
    child.once('exit', (code) => fail(new Error(`The server ended with ${code}:\n${output}`)));
  });
}

/** Puts the demo into a data folder that holds nothing, where the tests have one ready (`scripts/seeded.mjs`): the server would take longer. */
function copySeeded(data: string): void {
  const seeded = process.env['JENTRIX_SEEDED'];
  if (seeded !== undefined && (!existsSync(data) || readdirSync(data).length === 0)) cpSync(seeded, data, { recursive: true });
}

/** Changes preferences on the server; the others stay as they are. */
export async function prefer(url: string, change: object): Promise<void> {
  const address = `${url}/api/preferences`;
  const preferences = (await (await fetch(address)).json()) as object;
  const headers = { 'content-type': 'application/json' };
  await fetch(address, { method: 'PUT', headers, body: JSON.stringify({ ...preferences, ...change }) });
}

function end(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((done) => {
    child.once('exit', () => done());
    child.kill('SIGKILL');
  });
}

export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'jentrix-'));
export const removeFolder = (folder: string): void => rmSync(folder, { recursive: true, force: true });

/** Debian's Chromium, as it starts without a display and as root. */
export function chromiumOptions(): LaunchOptions {
  return {
    executablePath: process.env['CHROME_BIN'] ?? execFileSync('which', ['chromium']).toString().trim(),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--font-render-hinting=none',
    ],
    defaultViewport: { width: 1280, height: 800 },
  };
}

export const launchBrowser = (): Promise<Browser> => puppeteer.launch(chromiumOptions());

/** How long anything is waited for in a page, in milliseconds: machines have slow minutes, and nothing here says how fast it is. */
const PATIENCE = 90_000;

/** Opens a page whose errors end up in `errors`; requests outside the server are errors too. */
export async function openPage(browser: Browser, url: string, { offline = false } = {}): Promise<{ page: Page; errors: string[] }> {
  const page = await browser.newPage();
  page.setDefaultTimeout(PATIENCE);
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error' && !/Failed to load resource|net::ERR/.test(message.text())) errors.push(message.text());
  });
  page.on('request', (request) => {
    if (!/^(http:\/\/127\.0\.0\.1:|data:|blob:)/.test(request.url())) errors.push(`request to ${request.url()}`);
  });
  // tsx names functions with a helper that functions sent to the page would miss there.
  await page.evaluateOnNewDocument('globalThis.__name ??= (named) => named');
  // What is tested elsewhere is tested on what the server answers.
  if (!offline) await page.evaluateOnNewDocument('delete Navigator.prototype.serviceWorker');
  await page.goto(url, { waitUntil: 'load' });
  return { page, errors };
}

/** Opens a demo job from the shelf by part of its title and waits until its letters are on the table. */
export async function openJob(page: Page, title: string): Promise<void> {
  await click(page, `a.picture[aria-label*="${title}"]`);
  await page.waitForSelector('jx-table [data-block] path');
}

/** Where the letters of a block stand on the table, by offset in its words: the numbers the page draws with, in points. */
export function lettersOnScreen(page: Page, blockId: string): Promise<{ at: number; x: number; y: number }[]> {
  return page.$$eval(`jx-table [data-block="${blockId}"] path`, (paths) =>
    paths.map((path) => {
      const [, x, y] = /^M([-\d.e]+),([-\d.e]+)/.exec(path.getAttribute('d') ?? '') ?? [];
      return { at: Number(path.getAttribute('data-at')), x: Number(x), y: Number(y) };
    }),
  );
}

/** Waits until no dialog lies over the page: one that was closed still fades, and takes the clicks until it is gone. */
export async function dialogGone(page: Page): Promise<void> {
  await page.waitForFunction(() => document.querySelector('ngb-modal-window') === null);
}

/** Clicks on the left edge of the letter at an offset: the gap before it. */
export async function clickGap(page: Page, blockId: string, at: number): Promise<void> {
  await dialogGone(page);
  const { x, y, height } = await stillBox(page, `jx-table [data-block="${blockId}"] path[data-at="${at}"]`);
  await page.mouse.click(x + 1, y + height * 0.6);
  await page.waitForSelector('[data-testid="caret"]');
  await page.waitForSelector('jx-gap-ribbon');
}

/** The ledger's total of the current gap, in 1/1000 em, once it differs from `before`. */
export async function totalOfGap(page: Page, before?: number): Promise<number> {
  const handle = await page.waitForFunction(
    (old) => {
      const text = document.querySelector('[data-testid="total"]')?.textContent.trim().replace('−', '-');
      return text !== undefined && Number(text) !== old ? { value: Number(text) } : undefined;
    },
    {},
    before ?? null,
  );
  return ((await handle.jsonValue()) as { value: number }).value;
}

/** Waits until the masthead says where the job stands with the server; what it said before the last edit was drawn does not count. */
export async function waitForState(page: Page, state: 'saved' | 'offline' | 'saving'): Promise<void> {
  await page.evaluate(() => new Promise<void>((drawn) => requestAnimationFrame(() => requestAnimationFrame(() => drawn()))));
  await page.waitForSelector(`jx-masthead .state[data-state="${state}"]`);
}

/** Waits until a letter stands at an x (points) that passes the test, and gives it. */
export async function waitForLetter(page: Page, blockId: string, at: number, test: { not?: number; near?: number }): Promise<number> {
  const handle = await page.waitForFunction(
    (selector, { not, near }) => {
      const [, text] = /^M([-\d.e]+),/.exec(document.querySelector(selector)?.getAttribute('d') ?? '') ?? [];
      if (text === undefined) return undefined;
      const x = Number(text);
      if (not !== undefined && Math.abs(x - not) < 1e-6) return undefined;
      if (near !== undefined && Math.abs(x - near) > 1e-4) return undefined;
      return { x };
    },
    {},
    `jx-table [data-block="${blockId}"] path[data-at="${at}"]`,
    test,
  );
  return ((await handle.jsonValue()) as { x: number }).x;
}

/** Clicks a button by what it says or by its accessible name, once it is at rest and nothing lies over it. */
export async function press(page: Page, name: string): Promise<void> {
  const handle = await page.waitForFunction(
    (wanted) => {
      // The first that nothing covers: a dialog may have a button of the same name.
      return [...document.querySelectorAll('button')].find((one) => {
        if (!(one.getAttribute('aria-label') ?? one.textContent).trim().startsWith(wanted) || one.disabled || !one.offsetParent) return false;
        const { left, top, width, height } = one.getBoundingClientRect();
        const covering = document.elementFromPoint(left + width / 2, top + height / 2)?.closest('ngb-modal-window');
        return !covering || covering.contains(one);
      });
    },
    {},
    name,
  );
  await atRest(handle as ElementHandle);
  await (handle as ElementHandle).click();
}

/**
 * Waits until an element stands where it stood two frames ago, and nothing it is in is on its way: a click that is aimed at what still
 * moves can miss it.
 */
async function atRest(handle: ElementHandle): Promise<void> {
  await handle.evaluate(async (element) => {
    const frame = (): Promise<unknown> => new Promise((drawn) => requestAnimationFrame(drawn));
    const isMoving = ({ playState, effect }: Animation): boolean =>
      playState === 'running' && effect instanceof KeyframeEffect && effect.target?.contains(element) === true;
    const place = (): string => JSON.stringify(element.getBoundingClientRect());
    for (let before = ''; element.isConnected && (place() !== before || document.getAnimations().some(isMoving));) {
      before = place();
      await frame();
      await frame();
    }
  });
}

/** Picks something in an open dialog by how its label begins. */
export async function pick(page: Page, label: string): Promise<void> {
  await page.waitForFunction(
    (wanted) => {
      const found = [...document.querySelectorAll('.modal-body label')].find((one) => one.textContent.trim().startsWith(wanted));
      found?.querySelector('input')?.click();
      return found !== undefined;
    },
    {},
    label,
  );
}

/** Hands over in a format with what its options are called. */
export async function handOver(page: Page, format: string, ...options: string[]): Promise<void> {
  await dialogGone(page);
  await press(page, 'Hand over');
  await page.waitForSelector('jx-hand-over-dialog');
  for (const label of [format, ...options]) await pick(page, label);
  await click(page, 'jx-hand-over-dialog .modal-footer .btn-dark:not(:disabled)');
}

/** Where an element is once it has come to rest: what is being set moves. */
export async function stillBox(page: Page, selector: string): Promise<BoundingBox> {
  let before: string | undefined;
  for (;;) {
    const box = await (await page.waitForSelector(selector))?.boundingBox();
    const now = JSON.stringify(box);
    if (box && now === before) return box;
    before = now;
    await new Promise((later) => setTimeout(later, 80));
  }
}

/** Drags from the middle of an element by some pixels. */
export async function drag(page: Page, selector: string, x: number, y: number, key?: 'Shift' | 'Alt'): Promise<void> {
  const box = await stillBox(page, selector);
  const [fromX, fromY] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(fromX, fromY);
  if (key) await page.keyboard.down(key);
  await page.mouse.down();
  await page.mouse.move(fromX + x / 2, fromY + y / 2);
  await page.mouse.move(fromX + x, fromY + y);
  await page.mouse.up();
  if (key) await page.keyboard.up(key);
}

/** Clicks an element once it is there and at rest. */
export async function click(page: Page, selector: string, options?: Parameters<Page['click']>[1]): Promise<void> {
  const handle = await page.waitForSelector(selector);
  if (handle) await atRest(handle);
  await page.click(selector, options);
}

/** Types into a field once it is there. */
export async function typeInto(page: Page, selector: string, text: string): Promise<void> {
  await page.waitForSelector(selector);
  await page.type(selector, text);
}

/** Takes an option of a list, by its value, once the list is there. */
export async function choose(page: Page, selector: string, value: string): Promise<void> {
  await page.waitForSelector(`${selector} option[value="${value}"]`);
  await page.select(selector, value);
}

/** The identifier of the job the page is on. */
export const jobIdOf = (page: Page): string => new URL(page.url()).pathname.split('/').pop() ?? '';

/** The text of an element, once it is there. */
export async function textOf(page: Page, selector: string): Promise<string> {
  const element = await page.waitForSelector(selector);
  return (await element?.evaluate((node) => node.textContent.trim())) ?? '';
}

/** Waits until an element says just this. */
export async function waitForText(page: Page, selector: string, text: string): Promise<void> {
  await page.waitForFunction((css, wanted) => document.querySelector(css)?.textContent.trim() === wanted, {}, selector, text);
}

/** Waits until an element says something among other things: what a key has done is drawn a moment later. */
export async function waitForWords(page: Page, selector: string, words: string | RegExp): Promise<void> {
  const pattern = typeof words === 'string' ? words.replace(/[.*+?^${}()|[\]\\]/g, '\\$&') : words.source;
  await page.waitForFunction((css, source) => new RegExp(source).test(document.querySelector(css)?.textContent ?? ''), {}, selector, pattern);
}

/** Waits until what has the focus is called so. */
export async function waitForFocus(page: Page, label: RegExp): Promise<void> {
  await page.waitForFunction((source) => new RegExp(source).test(document.activeElement?.getAttribute('aria-label') ?? ''), {}, label.source);
}

/** The job the page is on, as the server has it. */
export async function savedJob(page: Page, url: string): Promise<Job> {
  const response = await fetch(`${url}/api/jobs/${jobIdOf(page)}`);
  return jobRecordSchema.parse(await response.json()).job;
}

/**
 * Asks again until the answer passes a test: for what the server has, a moment after the page.
 * @throws Error with the last answer, where it never does.
 */
export async function eventually<T>(ask: () => Promise<T>, test: (answer: T) => boolean): Promise<T> {
  for (let i = 0; ; i++) {
    const answer = await ask();
    if (test(answer)) return answer;
    if (i > 200) throw new Error(`Never came true; at last: ${JSON.stringify({ answer }).slice(0, 800)}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
