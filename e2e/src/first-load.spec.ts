/** The weight of the first picture of a view: every script that is sent for it, worker included, as it is compressed; and all that is sent, fonts and faces too. */
import { type Server, createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { openPage } from './harness';
import { journey } from './suite';

const SHELF_BYTES = 200_000;
const BENCH_BYTES = 350_000;
/** All of a cold start of the bench: 0.91 MiB; what keeps it without a server is part of it. */
const COLD_BYTES = 954_204;

/** Passes everything on to the server, and counts bytes as they go over the wire. */
function counting(port: number): Promise<{ url: string; scripts: Map<string, number>; all: Map<string, number>; server: Server }> {
  const scripts = new Map<string, number>();
  const all = new Map<string, number>();
  const server = createServer((incoming, outgoing) => {
    const headers = { ...incoming.headers, host: `127.0.0.1:${port}` };
    delete headers.origin;
    const onward = request({ host: '127.0.0.1', port, method: incoming.method, path: incoming.url, headers }, (answer) => {
      outgoing.writeHead(answer.statusCode ?? 500, answer.headers);
      const isScript = String(answer.headers['content-type']).includes('javascript');
      answer.on('data', (chunk: Buffer) => {
        all.set(incoming.url ?? '', (all.get(incoming.url ?? '') ?? 0) + chunk.length);
        if (isScript) scripts.set(incoming.url ?? '', (scripts.get(incoming.url ?? '') ?? 0) + chunk.length);
      });
      answer.pipe(outgoing);
    });
    onward.on('error', () => outgoing.destroy());
    incoming.pipe(onward);
  });
  return new Promise((ready) =>
    server.listen(0, '127.0.0.1', () => ready({ url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, scripts, all, server })),
  );
}

describe('the first load', () => {
  const current = journey();

  for (const [name, path, picture, most] of [
    ['shelf', '/', 'a.picture img', SHELF_BYTES],
    ['bench', 'jobs', 'jx-table [data-block] path', BENCH_BYTES],
  ] as const) {
    it(`of the ${name} sends at most ${most / 1000} kB of scripts`, async () => {
      const { items } = (await (await fetch(`${current.server.url}/api/jobs`)).json()) as { items: { id: string }[] };
      const { url, scripts, all, server } = await counting(current.server.port);
      try {
        // What is fetched once there is nothing else to do is not for the first picture.
        const { page } = await openPage(current.browser, 'about:blank');
        await page.evaluateOnNewDocument('globalThis.requestIdleCallback = () => 0');
        await page.goto(url + (path === 'jobs' ? `/jobs/${items[0]?.id}` : path));
        await page.waitForSelector(picture);
        await page.waitForNetworkIdle();
        const sent = [...scripts.values()].reduce((sum, bytes) => sum + bytes, 0);
        await page.close();
        expect(sent).toBeGreaterThan(50_000);
        expect(sent)
          .withContext(JSON.stringify([...scripts]))
          .toBeLessThanOrEqual(most);
        expect([...all.values()].reduce((sum, bytes) => sum + bytes, 0))
          .withContext(JSON.stringify([...all].filter(([name]) => !scripts.has(name))))
          .toBeLessThanOrEqual(COLD_BYTES);
      } finally {
        server.closeAllConnections();
        server.close();
      }
    });
  }
});
