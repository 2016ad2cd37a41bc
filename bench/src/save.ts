/** Saving a job of about 750 kB: as it is done, and as it would be with the job sent plain and coming back twice, which 1.0.0 did. */
import { readFileSync } from 'node:fs';
import { type IncomingMessage, request } from 'node:http';
import { join } from 'node:path';
import { brotliDecompressSync, gzipSync } from 'node:zlib';
import { jobRecordSchema } from '@jentrix/core/api';
import { readJobFile } from '@jentrix/core/formats';
import { type Job, allBlocks, restyle } from '@jentrix/core/job';
import { type RunningServer, removeFolder, root, startServer, temporaryFolder } from '@jentrix/e2e/harness';
import { percentile, printTable, ratio } from './table';

const ROUNDS = 24;
const BYTES = 750_000;

export async function benchSave(): Promise<void> {
  const job = large(readJobFile(readFileSync(join(root, 'demo/1-perseids-poster.jentrix.json'), 'utf8')));
  const data = temporaryFolder();
  const server = await startServer(data, { demo: false });
  try {
    const made = await ask(server, 'POST', '/api/jobs', Buffer.from(JSON.stringify({ job })), {});
    const { id } = jobRecordSchema.parse(JSON.parse(made.text));
    let revision = 1;
    const save = async (round: number, packed: boolean): Promise<number> => {
      const body = JSON.stringify({ job: restyle(job, allBlocks(job)[0]?.id ?? '', { trackingMilliem: round }) });
      const headers = { 'if-match': `"${revision++}"`, ...(packed ? { 'content-encoding': 'gzip' } : {}) };
      return (await ask(server, 'PUT', `/api/jobs/${id}`, packed ? gzipSync(body) : Buffer.from(body), headers)).bytes;
    };
    const ways = [
      async (round: number) => save(round, true),
      async (round: number) => {
        const sent = await save(round, false);
        // The answer was the job, which was checked; then the job was asked for again.
        const [answer, again] = [await ask(server, 'GET', `/api/jobs/${id}`), await ask(server, 'GET', `/api/jobs/${id}`)];
        jobRecordSchema.parse(JSON.parse(answer.text));
        return sent + answer.bytes + again.bytes;
      },
    ];
    const figures = ways.map(() => ({ bytes: [] as number[], cpuMs: [] as number[] }));
    for (let round = 0; round < ROUNDS; round++) {
      for (const [i, way] of ways.entries()) {
        const before = processorMs(server.pid) + ownMs();
        const bytes = await way(round);
        // The first rounds warm up.
        if (round < 4) continue;
        figures[i]?.bytes.push(bytes);
        figures[i]?.cpuMs.push(processorMs(server.pid) + ownMs() - before);
      }
    }
    const rows = figures.map(({ bytes, cpuMs }) => [percentile(bytes, 0.5), cpuMs.reduce((sum, one) => sum + one, 0) / cpuMs.length] as const);
    const [now, then] = [rows[0] ?? [0, 0], rows[1] ?? [1, 1]];
    printTable(`Saving ${(JSON.stringify({ job }).length / 1000).toFixed(0)} kB`, [
      ['', 'bytes on the wire', 'processor time'],
      ['as it is', `${(now[0] / 1000).toFixed(1)} kB`, `${now[1].toFixed(1)} ms`],
      ['sent plain, back twice', `${(then[0] / 1000).toFixed(1)} kB`, `${then[1].toFixed(1)} ms`],
      ['share', ratio(now[0] / then[0]), ratio(now[1] / then[1])],
    ]);
  } finally {
    await server.kill();
    removeFolder(data);
  }
}

/** The job with as many copies of its blocks as make it large. */
function large(job: Job): Job {
  const [sheet] = job.sheets;
  if (!sheet) return job;
  const blocks: Job['sheets'][number]['blocks'] = [];
  for (let n = 0, bytes = 0; bytes < BYTES; n++) {
    const model = sheet.blocks[n % sheet.blocks.length];
    if (!model) break;
    const block = { ...model, id: `copy-${n}`, words: `${model.words} ${n * 7919}` };
    blocks.push(block);
    bytes += JSON.stringify(block).length;
  }
  const halves = [blocks.slice(0, blocks.length / 2), blocks.slice(blocks.length / 2)];
  return { ...job, sheets: halves.map((own, i) => ({ ...sheet, id: `sheet-${i}`, blocks: own })) };
}

interface Answer {
  text: string;
  /** Both ways, head included. */
  bytes: number;
}

function ask(server: RunningServer, method: string, path: string, body?: Buffer, headers: Record<string, string> = {}): Promise<Answer> {
  return new Promise((done, fail) => {
    const own = { 'accept-encoding': 'br', ...(body ? { 'content-type': 'application/json', 'content-length': String(body.length) } : {}), ...headers };
    const asked = request({ host: '127.0.0.1', port: server.port, method, path, headers: own, agent: false }, (answer: IncomingMessage) => {
      const parts: Buffer[] = [];
      answer.on('data', (part: Buffer) => parts.push(part));
      answer.on('end', () => {
        const raw = Buffer.concat(parts);
        const text = (answer.headers['content-encoding'] === 'br' ? brotliDecompressSync(raw) : raw).toString();
        if ((answer.statusCode ?? 500) >= 400) fail(new Error(`${answer.statusCode} ${text.slice(0, 200)}`));
        else done({ text, bytes: answer.socket.bytesRead + answer.socket.bytesWritten });
      });
    });
    asked.on('error', fail);
    asked.end(body);
  });
}

const ownMs = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};

/** Processor time of a process and those it began, in milliseconds (proc(5): clock ticks of a hundredth of a second). */
function processorMs(pid: number): number {
  const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
  const [user = 0, system = 0] = stat
    .slice(stat.lastIndexOf(')') + 2)
    .split(' ')
    .slice(11, 13)
    .map(Number);
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean);
  return (user + system) * 10 + children.reduce((sum, child) => sum + processorMs(Number(child)), 0);
}
