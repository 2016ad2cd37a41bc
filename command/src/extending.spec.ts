/** A command is added from outside, and turns up in the help and when it is called; what is made of the formats takes those there are. */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readJobFile } from '@jentrix/core/formats';
import type { Command } from './command';
import { COMMANDS } from './commands';
import { main } from './main';

describe('adding', () => {
  it('a command: in the help, and run', async () => {
    const heard = { out: '', error: '' };
    const output = { out: (text: string) => (heard.out += text), error: (text: string) => (heard.error += text) };
    const echo: Command = {
      name: 'echo',
      usage: ['--text TEXT'],
      says: 'Says it again.',
      example: '--text VA',
      options: ['text'],
      run: ({ text }, _files, { out }) => (out(text ?? ''), 3),
    };
    expect(await main(['--help'], { output, commands: { ...COMMANDS, echo: () => Promise.resolve(echo) } })).toBe(0);
    expect(heard.out).toContain('jentrix echo --text TEXT');
    expect(heard.out).toContain('Says it again.');
    heard.out = '';
    expect(await main(['echo', '--text', 'VA'], { output, commands: { ...COMMANDS, echo: () => Promise.resolve(echo) } })).toBe(3);
    expect(heard.out).toBe('VA');
    expect(await main(['echo'], { output })).toBe(2);
    expect(heard.error).toContain(`there are ${Object.keys(COMMANDS).join(', ')}.`);
  });

  it('draw, a command made of the formats, writes what the page hands over', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'jentrix-draw-'));
    const poster = new URL('../../demo/1-perseids-poster.jentrix.json', import.meta.url).pathname;
    const quiet = { out: () => undefined, error: () => undefined };
    try {
      const out = join(folder, 'sheet.svg');
      expect(await main(['draw', poster, '-o', out, '--letters', 'text'], { output: quiet })).toBe(0);
      expect(readFileSync(out, 'utf8')).toContain('<text ');
      const sheets = readJobFile(readFileSync(poster, 'utf8')).sheets.length;
      for (const wrong of [
        ['--letters', 'lead'],
        ['--format', 'png'],
        ['--sheet', String(sheets + 1)],
        ['--sheet', '0.5'],
      ]) {
        expect(await main(['draw', poster, '-o', out, ...wrong], { output: quiet }))
          .withContext(wrong.join(' '))
          .toBe(2);
      }
      expect(await main(['draw', poster], { output: quiet })).toBe(2);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
