/** The `jentrix` command. */
import { readFileSync, writeFileSync } from 'node:fs';
import { type ParseArgsConfig, parseArgs } from 'node:util';
import { checkJob, refineJob } from '../findings';
import { readJobFile, writeJobFile } from '../formats';
import { WordedError } from '../errors';
import type { Job } from '../job';
import { SHIPPED_FACES, facesForJob, openFont, readBytes } from './fonts';
import { gapsOfText, pairsOf } from './gaps';
import { HELP, UsageError } from './usage';

/** Where the command writes; specs listen in. */
export interface Output {
  out: (text: string) => void;
  error: (text: string) => void;
}

const PROCESS: Output = { out: (text) => void process.stdout.write(text), error: (text) => void process.stderr.write(text) };

const OPTIONS = {
  font: { type: 'string' },
  text: { type: 'string' },
  pairs: { type: 'string' },
  axes: { type: 'string' },
  size: { type: 'string', default: '72' },
  tracking: { type: 'string', default: '0' },
  strength: { type: 'string', default: '1' },
  faces: { type: 'string', default: SHIPPED_FACES },
  output: { type: 'string', short: 'o' },
  json: { type: 'boolean', default: false },
  'no-font-kerning': { type: 'boolean', default: false },
  help: { type: 'boolean', short: 'h', default: false },
} as const satisfies ParseArgsConfig['options'];

type Values = ReturnType<typeof parse>['values'];

function parse(argv: readonly string[]) {
  try {
    return parseArgs({ args: joinNegatives(argv), options: OPTIONS, allowPositionals: true });
  } catch (error) {
    throw new UsageError(error instanceof Error ? error.message : String(error));
  }
}

/** `--tracking -20` is read as `--tracking=-20`. */
function joinNegatives(argv: readonly string[]): string[] {
  const joined: string[] = [];
  for (const argument of argv) {
    const last = joined[joined.length - 1];
    if (last !== undefined && /^--[a-z]+$/.test(last) && /^-\d/.test(argument)) joined[joined.length - 1] = `${last}=${argument}`;
    else joined.push(argument);
  }
  return joined;
}

/** @returns the exit status: 0, 1 for severe findings, 2 for a mistake. */
export async function main(argv: readonly string[], output: Output = PROCESS): Promise<number> {
  try {
    const { values, positionals } = parse(argv);
    const [command, ...files] = positionals;
    if (values.help || command === undefined) {
      output.out(HELP);
      return values.help ? 0 : 2;
    }
    if (command === 'gaps') return await gaps(values, output);
    if (command === 'refine') return await refine(values, onlyFile(files), output);
    if (command === 'check') return await check(values, onlyFile(files), output);
    throw new UsageError(`There is no command “${command}”; there are gaps, refine and check.`);
  } catch (error) {
    if (!(error instanceof WordedError)) throw error;
    output.error(`jentrix: ${error.message}\n`);
    return 2;
  }
}

async function gaps(values: Values, { out }: Output): Promise<number> {
  if (values.font === undefined) throw new UsageError('--font FILE is needed.');
  if ((values.text === undefined) === (values.pairs === undefined)) throw new UsageError('Either --text or --pairs is needed.');
  const options = {
    axes: axesOf(values.axes),
    sizePt: numberOf('size', values.size, 1, 5000),
    trackingMilliem: numberOf('tracking', values.tracking, -1000, 5000),
    strength: numberOf('strength', values.strength, 0, 2),
  };
  const face = await openFont(values.font, values['no-font-kerning'] ? { withoutTables: ['GPOS', 'kern', 'kerx'] } : {});
  if (values.pairs !== undefined) {
    const list = new TextDecoder().decode(readBytes(values.pairs));
    for (const row of pairsOf(face, list, options)) out(`${JSON.stringify(row)}\n`);
    return 0;
  }
  const rows = gapsOfText(face, values.text ?? '', options);
  if (values.json) {
    out(`${JSON.stringify(rows, null, 2)}\n`);
    return 0;
  }
  const table = [
    ['pair', 'fontMilliem', 'shapeMilliem', 'whiteMilliem', 'targetMilliem', 'distancePt'],
    ...rows.map((row) => [
      `${row.left} ${row.right}`,
      String(row.fontMilliem),
      String(row.shapeMilliem),
      String(row.whiteMilliem),
      String(row.targetMilliem),
      row.distancePt === null ? '-' : row.distancePt.toFixed(2),
    ]),
  ];
  out(table.map((cells) => `${cells.map((cell, i) => (i === 0 ? cell.padEnd(5) : cell.padStart(14))).join('')}\n`).join(''));
  return 0;
}

async function refine(values: Values, file: string, { out, error }: Output): Promise<number> {
  if (values.output === undefined) throw new UsageError('-o OUT.json is needed.');
  const job = readJob(file);
  const { faces, missing } = await facesForJob(job, values.faces);
  for (const id of missing) error(`jentrix: the face “${id}” is not here; its words are left as they are.\n`);
  const refined = refineJob(job, numberOf('strength', values.strength, 0, 2), (id) => faces.has(id));
  writeFileSync(values.output, writeJobFile(refined));
  const [before, after] = [job, refined].map((one) => checkJob(one, faces).evenness);
  const print = (value: number | undefined): string => (value === undefined ? '-' : value.toFixed(0));
  out(`Kerned by shape: evenness ${print(before)} to ${print(after)}, written to ${values.output}\n`);
  return 0;
}

async function check(values: Values, file: string, { out, error }: Output): Promise<number> {
  const job = readJob(file);
  const { faces, missing } = await facesForJob(job, values.faces);
  for (const id of missing) error(`jentrix: the face “${id}” is not here; its words are not checked.\n`);
  const { findings, evenness } = checkJob(job, faces);
  if (values.json) out(`${JSON.stringify({ evenness: evenness ?? null, findings }, null, 2)}\n`);
  else {
    for (const { sheet, severity, subject, message, words } of findings) out(`${severity.padEnd(7)} ${sheet}: ${subject} ${message} in “${words}”\n`);
    out(`${findings.length} findings, evenness ${evenness?.toFixed(0) ?? '-'}\n`);
  }
  return findings.some(({ severity }) => severity === 'severe') ? 1 : 0;
}

function onlyFile(files: readonly string[]): string {
  const [file, more] = files;
  if (file === undefined || more !== undefined) throw new UsageError('One job file is needed.');
  return file;
}

function readJob(path: string): Job {
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch (error) {
    throw new UsageError(`“${path}” can’t be read: ${error instanceof Error ? error.message : String(error)}`);
  }
  return readJobFile(text);
}

function numberOf(name: string, text: string, min: number, max: number): number {
  const value = Number(text);
  if (text.trim() === '' || !(value >= min && value <= max)) throw new UsageError(`--${name} takes a number from ${min} to ${max}, not “${text}”.`);
  return value;
}

/** `wght=700,wdth=90` */
function axesOf(text: string | undefined): Record<string, number> {
  if (text === undefined) return {};
  const axes: Record<string, number> = {};
  for (const part of text.split(',')) {
    const match = /^\s*([\x20-\x7e]{4})\s*=\s*(-?\d+(?:\.\d+)?)\s*$/.exec(part);
    const [, tag, value] = match ?? [];
    if (tag === undefined) throw new UsageError(`--axes is written wght=700,wdth=90; “${part}” is not part of that.`);
    axes[tag] = Number(value);
  }
  return axes;
}
