/** The harness of every journey: one browser for the suite, a fresh server and a page for each spec, and no errors in the page. */
import type { Browser, Page } from 'puppeteer-core';
import { type RunningServer, launchBrowser, openPage, removeFolder, startServer, temporaryFolder } from './harness';

export interface Journey {
  readonly browser: Browser;
  readonly page: Page;
  readonly data: string;
  server: RunningServer;
}

/** Declares the set-up of a suite. @returns an object that holds the current spec's things. */
export function journey(): Journey {
  const current: { browser?: Browser; page?: Page; data?: string; server?: RunningServer; errors?: string[] } = {};
  const need = <T>(value: T | undefined): T => {
    if (value === undefined) throw new Error('Only inside a spec');
    return value;
  };
  beforeAll(async () => {
    current.browser = await launchBrowser();
  });
  afterAll(async () => {
    await current.browser?.close();
  });
  beforeEach(async () => {
    current.data = temporaryFolder();
    current.server = await startServer(current.data);
    const context = await need(current.browser).createBrowserContext();
    const opened = await openPage(context as unknown as Browser, current.server.url);
    current.page = opened.page;
    current.errors = opened.errors;
  });
  afterEach(async () => {
    const errors = current.errors ?? [];
    await current.page?.browserContext().close();
    await current.server?.kill();
    if (current.data) removeFolder(current.data);
    expect(errors).withContext('errors in the page').toEqual([]);
  });
  return {
    get browser() {
      return need(current.browser);
    },
    get page() {
      return need(current.page);
    },
    get data() {
      return need(current.data);
    },
    get server() {
      return need(current.server);
    },
    set server(server: RunningServer) {
      current.server = server;
    },
  };
}
