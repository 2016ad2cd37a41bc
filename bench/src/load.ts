/** The cost of heavy work to others, of a soft shadow, and of waiting until a write is on the disk. */
import { join } from 'node:path';
import { readFileSync, readdirSync } from 'node:fs';
import { jobPageSchema, jobRecordSchema } from '@jentrix/core/api';
import type { Job, Sheet } from '@jentrix/core/job';
import { type RunningServer, removeFolder, startServer, temporaryFolder } from '@jentrix/e2e/harness';
import Database from 'better-sqlite3';
import { medians, ms, percentile, printTable, ratio } from './table';

const IDLE_MS = 5_000;

export async function benchLoad(): Promise<void> {
  const data = temporaryFolder();
  const server = await startServer(data);
  try {
    const { items } = jobPageSchema.parse(await (await fetch(`${server.url}/api/jobs?q=poster`)).json());
    const { job } = jobRecordSchema.parse(await (await fetch(`${server.url}/api/jobs/${items[0]?.id ?? ''}`)).json());
    const [poster] = job.sheets;
    if (!poster) throw new Error('The poster has no sheet');
    const plain = await put(server, job);
    const soft = await put(server, { ...job, sheets: [softened(poster)] });
    const ten = await put(server, { ...job, sheets: Array.from({ length: 10 }, (_, i) => renamed(poster, `-${i}`)) });
    const png = (id: string, scale: number) => take(server, `/api/jobs/${id}/sheets/${poster.id}/png?scale=${scale}`);
    await png(plain, 1);

    const idle = await listing(server, () => new Promise((later) => setTimeout(later, IDLE_MS)));
    const five = await listing(server, () => Promise.all(Array.from({ length: 5 }, () => png(plain, 3))));
    const zip = await listing(server, () => take(server, `/api/jobs/${ten}/sheets.zip?scale=2`));
    const row = (name: string, { times, peakMb }: Listing): string[] => {
      const p99 = percentile(times, 0.99);
      return [name, ms(percentile(times, 0.5)), ms(p99), ratio(p99 / percentile(idle.times, 0.99)), `${peakMb.toFixed(0)} MB`];
    };
    printTable('GET /api/jobs while posters (A2) are drawn', [
      ['', 'median', 'p99', 'p99, against idle', 'memory, all processes'],
      row('idle', idle),
      row('five posters at 3x', five),
      row('a ZIP of ten at 2x', zip),
    ]);

    const times: number[][] = [[], []];
    for (let i = 0; i < 5; i++) {
      for (const [which, id] of [plain, soft].entries()) {
        const start = performance.now();
        await png(id, 3);
        times[which]?.push(performance.now() - start);
      }
    }
    const [without = 0, withShadow = 0] = times.map((samples) => percentile(samples, 0.5));
    printTable('A poster as PNG at 3x', [
      ['', 'median', 'against plain'],
      ['plain', ms(without), ''],
      ['all words with a soft shadow', ms(withShadow), ratio(withShadow / without)],
    ]);
    benchWrites(data);
  } finally {
    await server.kill();
    removeFolder(data);
  }
}

/** The same write with and without waiting for the disk. */
function benchWrites(data: string): void {
  const document = 'x'.repeat(20_000);
  const [full, normal] = ['FULL', 'NORMAL'].map((mode) => {
    const database = new Database(join(data, `${mode}.sqlite`));
    database.pragma('journal_mode = WAL');
    database.pragma(`synchronous = ${mode}`);
    database.exec('CREATE TABLE job (id INTEGER PRIMARY KEY, document TEXT)');
    database.prepare('INSERT INTO job VALUES (1, ?)').run(document);
    const update = database.prepare('UPDATE job SET document = ? WHERE id = 1');
    return { write: (i: number) => update.run(`${document}${i}`), close: () => database.close() };
  });
  if (!full || !normal) return;
  const [waited = 0, unwaited = 0] = medians(200, full.write, normal.write);
  printTable('One write of a job (20 KB)', [
    ['', 'median', ''],
    ['on the disk when acknowledged (FULL)', ms(waited), ratio(waited / unwaited)],
    ['with the system (NORMAL)', ms(unwaited), ''],
  ]);
  full.close();
  normal.close();
}

const renamed = (sheet: Sheet, by: string): Sheet => ({ ...sheet, id: sheet.id + by, blocks: sheet.blocks.map((block) => ({ ...block, id: block.id + by })) });
const softened = (sheet: Sheet): Sheet => ({
  ...sheet,
  blocks: sheet.blocks.map((block) => ({ ...block, style: { ...block.style, shadow: { xMilliem: 30, yMilliem: 30, blurMilliem: 100, colour: '#000000' } } })),
});

async function put({ url }: RunningServer, job: Job): Promise<string> {
  const answer = await fetch(`${url}/api/jobs`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ job }) });
  return jobRecordSchema.parse(await answer.json()).id;
}

async function take({ url }: RunningServer, path: string): Promise<void> {
  const answer = await fetch(url + path);
  if (!answer.ok) throw new Error(`${path} was answered with ${answer.status}: ${await answer.text()}`);
  await answer.arrayBuffer();
}

interface Listing {
  times: number[];
  peakMb: number;
}

/** How long the shelf takes to be listed, again and again, while something is done. */
async function listing(server: RunningServer, work: () => Promise<unknown>): Promise<Listing> {
  const state = { over: false };
  const working = work().finally(() => (state.over = true));
  const times: number[] = [];
  let peakMb = 0;
  while (!state.over) {
    const start = performance.now();
    await (await fetch(`${server.url}/api/jobs`)).text();
    times.push(performance.now() - start);
    if (times.length % 20 === 0) peakMb = Math.max(peakMb, memoryMb(server.pid));
    await new Promise((later) => setTimeout(later, 5));
  }
  await working;
  return { times, peakMb };
}

/** Resident memory of a process and its children (Linux), in MB. */
function memoryMb(pid: number): number {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .reduce((sum, name) => {
      try {
        const parent = Number(/\) \S (\d+)/.exec(readFileSync(`/proc/${name}/stat`, 'utf8'))?.[1]);
        if (Number(name) !== pid && parent !== pid) return sum;
        return sum + (Number(readFileSync(`/proc/${name}/statm`, 'utf8').split(' ')[1]) * 4096) / 1e6;
      } catch {
        return sum;
      }
    }, 0);
}
