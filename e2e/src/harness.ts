/** A real server on a fresh database and the real page in headless Chromium. */
import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

export interface RunningServer {
  url: string;
  port: number;
  /** Ends the process; its data stays. */
  kill(): Promise<void>;
}

/** Starts the server on a port (0: a free one) and a data folder, and waits until it says that it is ready. */
export function startServer(data: string, { port = 0, demo = true } = {}): Promise<RunningServer> {
  const child: ChildProcess = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, JENTRIX_DATA: data, JENTRIX_PORT: String(port), JENTRIX_DEMO: demo ? '1' : '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  return new Promise((ready, fail) => {
    const read = (chunk: Buffer): void => {
      output += chunk.toString();
      const match = /ready at (http:\/\/[^:]+:(\d+))/.exec(output);
      if (match) ready({ url: match[1] ?? '', port: Number(match[2]), kill: () => end(child) });
    };
    child.stdout?.on('data', read);
    child.stderr?.on('data', read);
    child.once('exit', (code) => fail(new Error(`The server ended with ${code}:\n${output}`)));
  });
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
export function launchBrowser(): Promise<Browser> {
  const executablePath = process.env['CHROME_BIN'] ?? execFileSync('which', ['chromium']).toString().trim();
  return puppeteer.launch({
    executablePath,
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--font-render-hinting=none'],
    defaultViewport: { width: 1280, height: 800 },
  });
}

/** Opens a page whose errors end up in `errors`; requests outside the server are errors too. */
export async function openPage(browser: Browser, url: string): Promise<{ page: Page; errors: string[] }> {
  const page = await browser.newPage();
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error' && !/Failed to load resource|net::ERR/.test(message.text())) errors.push(message.text());
  });
  page.on('request', (request) => {
    if (!/^(http:\/\/127\.0\.0\.1:|data:|blob:)/.test(request.url())) errors.push(`request to ${request.url()}`);
  });
  await page.goto(url, { waitUntil: 'load' });
  return { page, errors };
}

/** Opens a demo job from the shelf by part of its title and waits until its letters are on the table. */
export async function openJob(page: Page, title: string): Promise<void> {
  const link = await page.waitForSelector(`a.picture[aria-label*="${title}"]`);
  await link?.click();
  await page.waitForSelector('jx-table [data-block] path');
}
