/** Sends hostile inputs to a real server, one after the other, and looks after each whether it is still what it was. */
import { readFileSync } from 'node:fs';
import { tried } from '@jentrix/core/base';
import { type RunningServer, removeFolder, startServer, temporaryFolder } from '../harness';
import { type Input, inputsOf } from './inputs';

/** The limits every input must keep. */
export const FUZZ_LIMITS = {
  /** An answer, the limits of the work itself included: 10 s of processor time, and what it waits for. */
  answerMs: 60_000,
  /** An answer to somebody else meanwhile. */
  controlMs: 5_000,
  /** How long the main thread may be held up; by the processor's time, as machines here are shared. */
  heldMs: 200,
  serverBytes: 1024 ** 3,
} as const;

/** How many inputs are made at a time. */
const BATCH = 250;

export interface Fuzzed {
  inputs: number;
  /** How often each status was answered. */
  statuses: Map<number, number>;
  /** How often work was given up, by why. */
  givenUp: Map<string, number>;
  heldMs: number;
  serverBytes: number;
}

/** A failure, with all that is needed to see it again. */
export class FuzzError extends Error {
  constructor(
    readonly seed: number,
    readonly index: number,
    readonly input: Input | undefined,
    why: string,
  ) {
    super(`Input ${index} of seed ${seed}${input ? ` (${input.kind})` : ''}: ${why}`);
  }
}

/** @throws FuzzError for a 5xx, a death, a hang, a held main thread, memory, NaN in an export, or a control that answers differently */
export async function fuzz(seed: number, count: number, say: (line: string) => void = () => undefined): Promise<Fuzzed> {
  const data = temporaryFolder();
  let held = 0;
  const server = await startServer(data, {
    env: { JENTRIX_WATCH: '1', JENTRIX_RENDERS_A_MINUTE: '1000000' },
    onError: (line) => {
      const [, cpu] = /^held \d+ (\d+)/.exec(line) ?? [];
      if (cpu !== undefined) held = Math.max(held, Number(cpu));
    },
  });
  const result: Fuzzed = { inputs: 0, statuses: new Map(), givenUp: new Map(), heldMs: 0, serverBytes: 0 };
  onGivenUp = (why) => result.givenUp.set(why, (result.givenUp.get(why) ?? 0) + 1);
  try {
    const control = await controlOf(server);
    held = 0; // starting up and seeding count against nobody
    for (let from = 0; from < count; from += BATCH) {
      for (const [i, input] of inputsOf(seed + from, Math.min(BATCH, count - from)).entries()) {
        const failed = (why: string): FuzzError => new FuzzError(seed, from + i, input, why);
        const statuses = await send(server, input).catch((error: unknown) => {
          throw failed(error instanceof Error ? error.message : String(error));
        });
        for (const status of statuses) {
          result.statuses.set(status, (result.statuses.get(status) ?? 0) + 1);
          if (status >= 500) throw failed(`was answered with ${status}`);
        }
        await control().catch((error: unknown) => {
          throw failed(`control: ${error instanceof Error ? error.message : String(error)}`);
        });
        if (held > FUZZ_LIMITS.heldMs) throw failed(`held the main thread for ${held} ms`);
        const memory = memoryOf(server.pid);
        result.serverBytes = Math.max(result.serverBytes, memory);
        if (memory > FUZZ_LIMITS.serverBytes) throw failed(`the server holds ${Math.round(memory / 1024 ** 2)} MB`);
        result.heldMs = Math.max(result.heldMs, held);
        result.inputs++;
      }
      say(
        `${result.inputs} inputs: ${[...result.statuses]
          .sort((a, b) => a[0] - b[0])
          .map(([status, times]) => `${status} ${times}x`)
          .join(', ')}; held at most ${result.heldMs} ms, ${Math.round(result.serverBytes / 1024 ** 2)} MB`,
      );
      for (const [why, times] of result.givenUp) say(`  given up ${times}x: ${why}`);
    }
    return result;
  } finally {
    await server.kill();
    removeFolder(data);
  }
}

async function ask(
  server: RunningServer,
  path: string,
  init: RequestInit = {},
  limitMs: number = FUZZ_LIMITS.answerMs,
): Promise<{ status: number; bytes: Buffer }> {
  const response = await fetch(server.url + path, { ...init, redirect: 'manual', signal: AbortSignal.timeout(limitMs) });
  const bytes = Buffer.from(await response.arrayBuffer());
  const why = response.status === 422 ? /"type":"\/problems\/too-much".*"detail":"([^.]*\d?[^"]*?)\. Nothing/.exec(bytes.toString())?.[1] : undefined;
  if (why !== undefined) onGivenUp(`${path.replace(/[0-9a-f-]{30,}/, '…')}: ${why}`);
  return { status: response.status, bytes };
}

/** Memory of a process in bytes; 0 where the system doesn't say (Linux does). */
function memoryOf(pid: number): number {
  const [, kilobytes] = tried(() => /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))) ?? [];
  return Number(kilobytes ?? 0) * 1024;
}

/** Told of work that was given up. */
let onGivenUp: (why: string) => void = () => undefined;

const json = (value: unknown): RequestInit => ({ method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) });
const upload = (bytes: Uint8Array): RequestInit => ({ method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: Uint8Array.from(bytes) });

/** A control that must stay the same, asked for again at every call. */
async function controlOf(server: RunningServer): Promise<() => Promise<void>> {
  const { items } = JSON.parse((await ask(server, '/api/jobs?sort=createdAt&order=asc')).bytes.toString()) as { items: { id: string }[] };
  const paths = items.slice(0, 1).flatMap(({ id }) => [`/api/jobs/${id}`, `/api/jobs/${id}/thumbnail.png`]);
  paths.push('/api/faces', '/api/preferences');
  const expected = new Map<string, Buffer>();
  for (const path of paths) expected.set(path, (await ask(server, path)).bytes);
  let turn = 0;
  return async () => {
    const path = paths[turn++ % paths.length] ?? '';
    const { status, bytes } = await ask(server, path, {}, FUZZ_LIMITS.controlMs);
    if (status !== 200 || !bytes.equals(expected.get(path) ?? Buffer.alloc(0))) throw new Error(`${path} answers differently (${status})`);
  };
}

/** Sends an input and everything that follows from it. @returns all statuses @throws Error for an export with a number that is none */
async function send(server: RunningServer, input: Input): Promise<number[]> {
  switch (input.kind) {
    case 'job':
      return sendJob(server, input.job, input.then);
    case 'picture': {
      const { status, bytes } = await ask(server, '/api/pictures', upload(input.bytes));
      if (status !== 201) return [status];
      const { id } = JSON.parse(bytes.toString()) as { id: string };
      const shown = await ask(server, `/api/pictures/${id}`);
      if (/root:|127\.0\.0\.1:1/.test(shown.bytes.toString('latin1'))) throw new Error('a picture holds what lies outside it');
      const background = { kind: 'picture', pictureId: id, fit: 'cover', colour: '#000000' };
      return [status, shown.status, ...(await sendJob(server, jobOn(background, 'source-sans-3-regular'), ['thumbnail', 'svg']))];
    }
    case 'font': {
      const { status, bytes } = await ask(server, '/api/faces', upload(input.bytes));
      if (status !== 201) return [status];
      const { id } = JSON.parse(bytes.toString()) as { id: string };
      const drawn = await sendJob(server, jobOn({ kind: 'colour', colour: '#ffffff' }, id), ['thumbnail', 'svg']);
      return [status, ...drawn, (await ask(server, `/api/faces/${encodeURIComponent(id)}`, { method: 'DELETE' })).status];
    }
    case 'file': {
      const { status, bytes } = await ask(server, `/api/intake?name=${input.name}`, upload(input.bytes));
      if (status !== 201) return [status];
      const { id } = JSON.parse(bytes.toString()) as { id: string };
      const statuses = [status];
      for (const step of ['thumbnail', 'file', 'package', 'fonts']) statuses.push((await ask(server, `/api/jobs/${id}${ROUTES[step]?.('') ?? ''}`)).status);
      return [...statuses, ...(await deleted(server, id))];
    }
    case 'request': {
      const { method, path, headers, body } = input;
      // Deleting and changing what the control asks for would be no fault of the server.
      const init: RequestInit = { method, headers, ...(body && method !== 'GET' && method !== 'HEAD' ? { body: Uint8Array.from(body) } : {}) };
      if (path.startsWith('/api/preferences') && method === 'PUT') return [];
      return [(await ask(server, path, init)).status];
    }
  }
}

const ROUTES: Readonly<Record<string, (sheet: string) => string>> = {
  thumbnail: () => '/thumbnail.png',
  svg: (sheet) => `/sheets/${sheet}/svg`,
  text: (sheet) => `/sheets/${sheet}/svg?letters=text`,
  png: (sheet) => `/sheets/${sheet}/png`,
  zip: () => '/sheets.zip?format=svg',
  pdf: () => '/sheets.pdf?bleed=3&marks=true',
  words: (sheet) => `/sheets/${sheet}/pdf?letters=text`,
  page: (sheet) => `/sheets/${sheet}/html?fluid=true`,
  webp: (sheet) => `/sheets/${sheet}/webp?width=300`,
  file: () => '/file',
  package: () => '/package',
  fonts: () => '/pairs?fonts=true',
};

async function sendJob(server: RunningServer, job: unknown, then: readonly string[]): Promise<number[]> {
  const { status, bytes } = await ask(server, '/api/jobs', json({ job }));
  const statuses = [status];
  if (status !== 201) return statuses;
  const record = JSON.parse(bytes.toString()) as { id: string; job: { sheets: { id: string }[] } };
  const made = [record.id];
  for (const step of then) {
    if (step === 'duplicate') {
      const copy = await ask(server, `/api/jobs/${record.id}/duplicate`, { method: 'POST' });
      statuses.push(copy.status);
      if (copy.status === 201) made.push((JSON.parse(copy.bytes.toString()) as { id: string }).id);
      continue;
    }
    const answer = await ask(server, `/api/jobs/${record.id}${ROUTES[step]?.(encodeURIComponent(record.job.sheets[0]?.id ?? '')) ?? ''}`);
    statuses.push(answer.status);
    // Words may say anything, and so may the letters that a picture's bytes are written in.
    if (
      (step === 'svg' || step === 'text' || step === 'page') &&
      answer.status === 200 &&
      /="[^"]*(NaN|Infinity|undefined)/.test(answer.bytes.toString().replace(/(aria-label|href)="[^"]*"/g, ''))
    ) {
      throw new Error('an export holds a number that is none');
    }
  }
  for (const id of made) statuses.push(...(await deleted(server, id)));
  return statuses;
}

/** Takes a job off the shelf for good. */
async function deleted(server: RunningServer, id: string): Promise<number[]> {
  const statuses: number[] = [];
  for (const path of [`/api/jobs/${id}`, `/api/jobs/${id}/forever`]) statuses.push((await ask(server, path, { method: 'DELETE' })).status);
  return statuses;
}

/** A demo job on another background, its first block in another face. */
function jobOn(background: object, faceId: string): unknown {
  const job = JSON.parse(readFileSync(new URL('../../../demo/4-open-day-flyer.jentrix.json', import.meta.url), 'utf8')) as {
    sheets: { blocks: { style: object }[] }[];
  };
  const [sheet] = job.sheets;
  const blocks = sheet?.blocks.map((block, i) => (i === 0 ? { ...block, style: { ...block.style, faceId } } : block));
  return { ...job, sheets: [{ ...sheet, background, blocks }] };
}
