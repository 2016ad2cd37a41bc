/** One of each kind is added from outside and works through the command: nothing else has to know of it. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FINDING_RULES, type Rule } from '@jentrix/core/findings';
import { SHEET_FORMATS, type SheetFormat, readJobFile, textFormat } from '@jentrix/core/formats';
import { READERS, type Reader } from '@jentrix/core/intake';
import { allBlocks, createBlock, createJob, restyle } from '@jentrix/core/job';
import { CUT_STEPS, type CutStep } from '@jentrix/core/refine';
import * as z from 'zod';
import type { Command } from './command';
import { COMMANDS } from './commands';
import { main } from './main';

const POSTER = new URL('../../demo/1-perseids-poster.jentrix.json', import.meta.url).pathname;

describe('added from outside, the command takes', () => {
  let folder: string;
  const added: (() => void)[] = [];
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'jentrix-extending-'))));
  afterEach(() => {
    for (const remove of added.splice(0)) remove();
    rmSync(folder, { recursive: true });
  });
  /** Adds a definition to its table for the time of a spec. */
  function add<T>(table: readonly T[], one: T): void {
    (table as T[]).push(one);
    added.push(() => (table as T[]).splice(table.indexOf(one), 1));
  }
  async function run(argv: readonly string[], commands = COMMANDS): Promise<{ status: number; out: string }> {
    let text = '';
    const output = { out: (more: string) => (text += more), error: (more: string) => (text += more) };
    const status = await main(argv, { output, commands });
    return { status, out: text };
  }

  it('a format: its name, its options, its file', async () => {
    const words = textFormat({
      kind: 'text',
      id: 'toy-words',
      name: 'Words',
      mediaType: 'text/plain',
      extension: '.txt',
      options: z.object({ letters: z.enum(['outlines', 'text']).default('outlines') }),
      says: 'for specs',
      fields: [],
      write: ({ drawing }, { letters }) => `${letters}: ${drawing.blocks.map(({ label }) => label).join(' | ')}`,
    });
    expect((await run(['export', POSTER, '--format', 'toy-words', '-o', join(folder, 'a.txt')])).status).toBe(2);
    add<SheetFormat>(SHEET_FORMATS, words);
    const to = join(folder, 'b.txt');
    expect((await run(['export', POSTER, '--format', 'toy-words', '--letters', 'text', '-o', to])).status).toBe(0);
    expect(readFileSync(to, 'utf8')).toMatch(/^text: TWO NIGHTS TO WATCH/);
    expect((await run(['export', POSTER, '--format', 'toy-words', '--letters', 'none', '-o', to])).out).toContain('--letters');
  });

  it('a kind of file to import', async () => {
    const from = join(folder, 'poem.toy');
    const to = join(folder, 'poem.json');
    writeFileSync(from, 'falling stars');
    expect((await run(['import', from, '-o', to])).status).toBe(2);
    const toy: Reader = {
      id: 'toy',
      name: 'toy',
      mediaType: 'text/plain',
      extensions: ['.toy'],
      take: (text, _faces, { title, newId }) => {
        const job = createJob(title, newId);
        const block = createBlock(newId(), text.toUpperCase(), { xPt: 0, yPt: 0, widthPt: 300, heightPt: 100 });
        return { job: { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [block] })) }, notes: ['In capitals.'] };
      },
    };
    add(READERS, toy);
    const { status, out } = await run(['import', from, '-o', to]);
    expect([status, out.includes('In capitals.')]).toEqual([0, true]);
    expect(allBlocks(readJobFile(readFileSync(to, 'utf8'))).map(({ words }) => words)).toEqual(['FALLING STARS']);
  });

  it('a finding rule, and a step of the first cut that carries it out', async () => {
    const rule: Rule = {
      id: 'toy-colour',
      pass: 'words',
      name: 'Toy colour',
      looksAt: 'block',
      look: ({ block }) =>
        block.style.colour === '#123456' ? [] : [{ at: 0, severity: 'fault', visiblePt: 99, subject: block.id, message: 'not in the colour of the toy' }],
    };
    const step: CutStep = {
      id: 'toy',
      name: 'Toy',
      propose: ({ block, findings }) =>
        findings.some((finding) => finding.rule === 'toy-colour')
          ? [{ what: 'colour', from: block.style.colour, to: '#123456', places: 1, edit: (job) => restyle(job, block.id, { colour: '#123456' }) }]
          : [],
    };
    add(FINDING_RULES, rule);
    add(CUT_STEPS, step);
    const before = (await run(['check', POSTER, '--json'])).out;
    expect(before).toContain('toy-colour');
    const to = join(folder, 'refined.json');
    expect((await run(['refine', POSTER, '--steps', 'toy', '-o', to])).status).toBe(0);
    expect(new Set(allBlocks(readJobFile(readFileSync(to, 'utf8'))).map(({ style }) => style.colour))).toEqual(new Set(['#123456']));
    expect((await run(['check', to, '--json'])).out).not.toContain('toy-colour');
  });

  it('a command, with its help', async () => {
    const hum: Command = {
      name: 'hum',
      usage: ['[--text TEXT]'],
      says: 'Hums.',
      example: '--text la',
      options: ['text'],
      run: ({ text }, _files, { out }) => {
        out(`${text ?? 'm'}\n`);
        return 0;
      },
    };
    const commands = { ...COMMANDS, hum: () => Promise.resolve(hum) };
    expect(await run(['hum', '--text', 'la'], commands)).toEqual({ status: 0, out: 'la\n' });
    expect((await run(['hum', '--help'], commands)).out).toContain('Hums.');
    expect((await run(['--help'], commands)).out).toContain('jentrix hum [--text TEXT]');
  });
});
