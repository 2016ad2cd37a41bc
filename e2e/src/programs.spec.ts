import { execFile, spawn } from 'node:child_process';
import { copyFileSync, mkdirSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { removeFolder, root, temporaryFolder } from './harness';

const run = promisify(execFile);

describe('programs as they are built', () => {
  const folder = temporaryFolder();
  afterAll(() => removeFolder(folder));

  const write = (path: string, text: string): void => {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  };
  /** A program's output. */
  const said = async (program: string): Promise<string> => (await run(process.execPath, ['--input-type=module', '-e', program])).stdout.trim();
  const scripts = (): string => JSON.stringify(join(folder, 'scripts/programs.mjs'));
  const loading = (entry: string): string => `await (await import(${scripts()})).load('${entry}')`;
  const MAIN = 'command/src/main.ts';

  beforeAll(() => {
    for (const path of [MAIN, 'command/src/bulk/refine-worker.ts', 'server/src/main.ts', 'server/src/child.ts', 'server/src/backups/by-hand.ts'])
      write(path, 'export {};');
    write('command/src/help.ts', `export const helpTexts = async () => ({ '': 'What there is.', fit: 'What fits.' });`);
    write('package.json', '{ "type": "module" }');
    for (const path of ['package-lock.json', 'tsconfig.base.json', 'core/src/none.ts']) write(path, path.endsWith('ts') ? 'export {};' : '{}');
    mkdirSync(join(folder, 'scripts'));
    for (const name of ['page.mjs', 'programs.mjs', 'steps.mjs']) copyFileSync(join(root, 'scripts', name), join(folder, 'scripts', name));
    mkdirSync(join(folder, 'node_modules'));
    for (const name of ['esbuild', '@esbuild']) symlinkSync(join(root, 'node_modules', name), join(folder, 'node_modules', name));
  });

  it('are made anew once a source has changed, by several at once as well, and find what lies beside it', async () => {
    write('core/src/words.ts', 'export const words: string = "one";');
    write('core/src/words.txt', 'beside');
    write(
      MAIN,
      `import { readFileSync } from 'node:fs';
       import { words } from '../../core/src/words';
       console.log(words, readFileSync(new URL('../../core/src/words.txt', import.meta.url), 'utf8'));`,
    );
    expect(await Promise.all([said(loading(MAIN)), said(loading(MAIN)), said(loading(MAIN))])).toEqual(Array(3).fill('one beside'));
    write('core/src/words.ts', 'export const words: string = "another";');
    expect(await said(loading(MAIN))).toBe('another beside');
    // No part of a build is left over.
    expect(readdirSync(join(folder, 'dist/programs')).filter((name) => name.includes('.'))).toEqual([]);
  });

  it('start processes of the build that they began with, though their sources have changed since', async () => {
    write('server/src/child.ts', `console.log('as it was');`);
    const change = `(await import('node:fs')).writeFileSync(${JSON.stringify(join(folder, 'server/src/child.ts'))}, "console.log('as it is now');")`;
    const child = `(await import('node:child_process')).execFileSync(process.execPath, ['--input-type=module', '-e', ${JSON.stringify(loading('server/src/child.ts'))}])`;
    expect(await said(`${loading('server/src/main.ts')}; ${change}; console.log(String(${child}))`)).toBe('as it was');
    expect(await said(loading('server/src/child.ts'))).toBe('as it is now');
  });

  it('serve the page that a server began with, though another was built since', async () => {
    for (const name of ['one', 'two']) write(`dist/page/${name}/browser/index.html`, name);
    write('dist/page/current', 'one');
    const page = `(await import(${JSON.stringify(join(folder, 'scripts/page.mjs'))})).builtPage()`;
    const build = `(await import('node:fs')).writeFileSync(${JSON.stringify(join(folder, 'dist/page/current'))}, 'two')`;
    // As `server/bin/server.mjs` takes it.
    expect(await said(`process.env.JENTRIX_PAGE = ${page}; ${build}; console.log(${page})`)).toBe(join(folder, 'dist/page/one/browser'));
    expect(await said(`console.log(${page})`)).toBe(join(folder, 'dist/page/two/browser'));
  });

  it('hold the help texts of the command', async () => {
    write(MAIN, 'export {};');
    const help = `const { load, helpOf } = await import(${scripts()}); await load('${MAIN}'); console.log(helpOf(undefined), helpOf('fit'))`;
    expect(await said(help)).toBe('What there is. What fits.');
  });

  it('end without an error when their reader closes early', async () => {
    const child = spawn(process.execPath, ['command/bin/jentrix.mjs', '--help'], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let error = '';
    child.stderr.on('data', (chunk: Buffer) => (error += chunk.toString()));
    child.stdout.destroy();
    expect(await new Promise((done) => child.on('close', done))).toBe(0);
    expect(error).toBe('');
  });
});
