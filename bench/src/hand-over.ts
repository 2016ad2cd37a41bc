/** Handing over: PNG and PDF beside the bare renderers with the same drawing, ten sheets as a ZIP, and folders of SVGs over one thread and two. */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { execFile, spawnSync } from 'node:child_process';
import { promisify } from 'node:util';
import { Resvg } from '@resvg/resvg-js';
import { drawSheet } from '@jentrix/core/drawing';
import { pathData } from '@jentrix/core/face';
import { SHEET_FORMATS, readJobFile, writeSvg } from '@jentrix/core/formats';
import { resolveSheet } from '@jentrix/core/job';
import { writeSheets } from '@jentrix/core/rendering';
import { setSheet } from '@jentrix/core/setting';
import { shippedFaces } from '@jentrix/core/testing';
import { removeFolder, root, startServer, temporaryFolder } from '@jentrix/e2e/harness';
import PDFDocument from 'pdfkit';
import { ms, printTable, ratio } from './table';

const ROUNDS = 12;
/** So many that starting threads does not count. */
const FILES = 960;
const INFO = { title: 'Bench', language: undefined };

/** The middle of several rounds of two things in turn, in milliseconds. */
async function inTurn(one: () => unknown, other: () => unknown): Promise<[number, number]> {
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i < ROUNDS + 3; i++) {
    for (const [k, run] of [one, other].entries()) {
      const started = performance.now();
      await run();
      if (i >= 3) times[k as 0 | 1].push(performance.now() - started);
    }
  }
  return times.map((list) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0) as [number, number];
}

export async function benchHandOver(): Promise<void> {
  const job = readJobFile(readFileSync(join(root, 'demo/1-perseids-poster.jentrix.json'), 'utf8'));
  const faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular', 'eb-garamond-italic');
  const raw = job.sheets[0];
  if (!raw) return;
  const sheet = resolveSheet(job, raw);
  const drawing = drawSheet(sheet, setSheet(sheet, faces));
  const material = { drawing, faces, pictures: new Map<string, string>() };
  const called = (id: string) => SHEET_FORMATS.find((format) => format.id === id)!;

  const png = called('png');
  const svg = writeSvg(drawing, faces, {
    letters: 'outlines',
    pixels: png.kind === 'pixels' ? png.pixels(drawing, png.options.parse({})) : { width: 1, height: 1 },
  });
  const [ourPng, barePng] = await inTurn(
    () => writeSheets(png, [material], INFO, png.options.parse({})),
    () => void new Resvg(svg, { font: { loadSystemFonts: false } }).render().asPng(),
  );
  const pdf = called('pdf');
  const paths = drawing.blocks.flatMap((block) => pathsIn(block, faces));
  const [ourPdf, barePdf] = await inTurn(
    () => writeSheets(pdf, [material], INFO, pdf.options.parse({})),
    () => barePage(drawing.widthPt, drawing.heightPt, paths),
  );

  const folder = temporaryFolder();
  const zip = await zipOfTen(folder);
  const { one, two, apart } = await refineFolder(folder);
  removeFolder(folder);
  printTable('Handing over (medians)', [
    ['', 'ours', 'bare', 'ratio'],
    ['PNG of a poster beside bare resvg', ms(ourPng), ms(barePng), ratio(ourPng / barePng)],
    ['PDF of a poster beside bare pdfkit', ms(ourPdf), ms(barePdf), ratio(ourPdf / barePdf)],
    ['SVGs refined, two threads beside one', ms(two), ms(one), `${(one / two).toFixed(2)} as many`],
    ['SVGs refined, two processes with a half each beside one thread', ms(apart), ms(one), `${(one / apart).toFixed(2)} as many`],
    ['ten sheets (A2, 2x) as a ZIP: the server and its processes grow by', `${zip.toFixed(0)} MB`, '', ''],
  ]);
}

type Paths = { fill: string; data: string }[];

function pathsIn(node: ReturnType<typeof drawSheet>['blocks'][number]['nodes'][number], faces: Awaited<ReturnType<typeof shippedFaces>>): Paths {
  if (node.kind === 'group') return node.nodes.flatMap((one) => pathsIn(one, faces));
  if (node.kind !== 'letters') return [];
  const instance = faces.instance(node.style);
  return node.glyphs.map(({ glyphId, matrix }) => ({
    fill: typeof node.fill === 'string' ? node.fill : node.fill.from,
    data: pathData(instance.outline(glyphId), matrix, 4),
  }));
}

function barePage(width: number, height: number, paths: Paths): Promise<void> {
  return new Promise((done) => {
    const doc = new PDFDocument({ size: [width, height], margin: 0 });
    doc.on('data', () => undefined).on('end', done);
    for (const { fill, data } of paths) if (data !== '') doc.path(data).fill(fill);
    doc.end();
  });
}

/** By how many megabytes the server and all its processes grow while ten sheets come as a ZIP, at most. */
async function zipOfTen(folder: string): Promise<number> {
  const server = await startServer(join(folder, 'data'));
  try {
    const { items } = (await (await fetch(`${server.url}/api/jobs`)).json()) as { items: { id: string; title: string }[] };
    const poster = items.find(({ title }) => title.includes('Perseids'));
    const record = (await (await fetch(`${server.url}/api/jobs/${poster?.id}`)).json()) as { job: { sheets: { id: string; blocks: { id: string }[] }[] } };
    const [first] = record.job.sheets;
    if (!first) return 0;
    const sheets = Array.from({ length: 10 }, (_, i) => ({
      ...first,
      id: `s${i}`,
      blocks: first.blocks.map((block) => ({ ...block, id: `${block.id}-${i}` })),
    }));
    const made = (await (
      await fetch(`${server.url}/api/jobs`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ job: { ...record.job, sheets } }),
      })
    ).json()) as { id: string };
    const before = residentMb(server.pid);
    let most = before;
    const timer = setInterval(() => (most = Math.max(most, residentMb(server.pid))), 50);
    const zip = await fetch(`${server.url}/api/jobs/${made.id}/sheets.zip?format=png&scale=2`);
    await zip.arrayBuffer();
    clearInterval(timer);
    return most - before;
  } finally {
    await server.kill();
  }
}

/** Memory of a process and its children in megabytes; pages they share count once. */
function residentMb(pid: number): number {
  const { stdout } = spawnSync('ps', ['-o', 'pid=', '-p', String(pid), '--ppid', String(pid)], { encoding: 'utf8' });
  return stdout
    .split('\n')
    .filter((line) => line.trim() !== '')
    .reduce((sum, line) => {
      try {
        return sum + Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${line.trim()}/smaps_rollup`, 'utf8'))?.[1] ?? 0) / 1024;
      } catch {
        return sum;
      }
    }, 0);
}

/**
 * How long a folder of SVGs takes with one thread, with two, and as two halves in processes of their own, which is what the machine gives
 * to two at once; in milliseconds, the middle of three turns, since a minute is long on a machine that is shared.
 */
async function refineFolder(folder: string): Promise<{ one: number; two: number; apart: number }> {
  const halves = [0, 1].map((half) => join(folder, 'svgs', String(half)));
  for (const half of halves) mkdirSync(half, { recursive: true });
  const line = (i: number, y: number): string =>
    `<text font-family="Playfair Display" font-weight="700" font-size="40" x="20" y="${y}">Two nights to watch ${i}, a valley of falling stars ${y}</text>`;
  for (let i = 0; i < FILES; i++) {
    const lines = Array.from({ length: 12 }, (_, k) => line(i, 50 * (k + 1)));
    const text = `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="700">${lines.join('')}</svg>`;
    writeFileSync(join(halves[i % 2] ?? folder, `${i}.svg`), text);
  }
  const timed = async (...commands: { from: string; jobs: number }[]): Promise<number> => {
    const to = join(folder, 'refined');
    const started = performance.now();
    await Promise.all(commands.map(({ from, jobs }, i) => refine(from, join(to, String(i)), jobs)));
    const taken = performance.now() - started;
    rmSync(to, { recursive: true });
    return taken;
  };
  const from = join(folder, 'svgs');
  const turns: { one: number; two: number; apart: number }[] = [];
  for (let turn = 0; turn < 3; turn++) {
    const one = await timed({ from, jobs: 1 });
    const two = await timed({ from, jobs: 2 });
    turns.push({ one, two, apart: await timed(...halves.map((half) => ({ from: half, jobs: 1 }))) });
  }
  const middle = turns.sort((a, b) => a.one / a.two - b.one / b.two)[1];
  if (!middle) throw new Error('No turns');
  return middle;
}

/** The command over a folder, in a process of its own. */
async function refine(from: string, to: string, jobs: number): Promise<void> {
  await promisify(execFile)(process.execPath, [join(root, 'core/bin/jentrix.mjs'), 'refine', from, '--out', to, '--jobs', String(jobs)], { maxBuffer: 64e6 });
}
