/** Opening a job while 10, 1,000 and 10,000 lie on the shelf. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { jobPageSchema } from '@jentrix/core/api';
import { readJobFile } from '@jentrix/core/formats';
import { removeFolder, root, startServer, temporaryFolder } from '@jentrix/e2e/harness';
import { ms, percentile, printTable, ratio } from './table';

const SAMPLES = 60;

export async function benchShelf(): Promise<void> {
  const job = readJobFile(readFileSync(join(root, 'demo/1-perseids-poster.jentrix.json'), 'utf8'));
  const data = temporaryFolder();
  const server = await startServer(data, { demo: false });
  const rows: string[][] = [['jobs on the shelf', 'list a page', 'search a title', 'open a job', 'open, against 10']];
  try {
    let made = 0;
    let first: number | undefined;
    for (const count of [10, 1_000, 10_000]) {
      while (made < count) {
        const batch = Math.min(50, count - made);
        await Promise.all(
          Array.from({ length: batch }, () =>
            fetch(`${server.url}/api/jobs`, {
              method: 'POST',
              headers: { 'content-type': 'application/json' },
              body: JSON.stringify({ job: { ...job, title: `Poster ${++made}` } }),
            }),
          ),
        );
      }
      const timed = async (path: string): Promise<number> => {
        const samples: number[] = [];
        for (let i = 0; i < SAMPLES; i++) {
          const start = performance.now();
          await (await fetch(server.url + path)).text();
          samples.push(performance.now() - start);
        }
        return percentile(samples, 0.5);
      };
      const page = jobPageSchema.parse(await (await fetch(`${server.url}/api/jobs?sort=title&page=2&pageSize=5`)).json());
      const list = await timed('/api/jobs');
      const search = await timed('/api/jobs?q=er%209');
      const open = await timed(`/api/jobs/${page.items[0]?.id ?? ''}`);
      first ??= open;
      rows.push([count.toLocaleString('en'), ms(list), ms(search), ms(open), ratio(open / first)]);
    }
  } finally {
    await server.kill();
    removeFolder(data);
  }
  printTable('The shelf, medians over HTTP', rows);
}
