import { execFile } from 'node:child_process';
import { copyFileSync, mkdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { removeFolder, root, temporaryFolder } from './harness';

describe('programs as they are started', () => {
  const folder = temporaryFolder();
  afterAll(() => removeFolder(folder));

  const write = (path: string, text: string): void => {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  };
  const said = async (): Promise<string> => {
    const program = `await (await import(${JSON.stringify(join(folder, 'scripts/compiled.mjs'))})).load('core/src/cli/main.ts')`;
    return (await promisify(execFile)(process.execPath, ['--input-type=module', '-e', program])).stdout.trim();
  };

  beforeAll(() => {
    for (const path of [
      'core/src/cli/bulk/refine-worker.ts',
      'server/src/main.ts',
      'server/src/pool/child.ts',
      'server/src/backups/by-hand.ts',
      'bench/src/main.ts',
      'e2e/src/more.ts',
    ])
      write(path, 'export {};');
    write('package.json', '{ "type": "module" }');
    for (const path of ['package-lock.json', 'tsconfig.base.json']) write(path, '{}');
    mkdirSync(join(folder, 'scripts'));
    copyFileSync(join(root, 'scripts/compiled.mjs'), join(folder, 'scripts/compiled.mjs'));
    mkdirSync(join(folder, 'node_modules'));
    for (const name of ['esbuild', '@esbuild', 'typescript', 'tsx', 'get-tsconfig', 'resolve-pkg-maps'])
      symlinkSync(join(root, 'node_modules', name), join(folder, 'node_modules', name));
  });

  it('are made anew once a source has changed, by several at once as well, and find what lies beside it', async () => {
    write('core/src/words.ts', 'export const words: string = "one";');
    write('core/src/words.txt', 'beside');
    write(
      'core/src/cli/main.ts',
      `import { readFileSync } from 'node:fs';
       import { words } from '../words';
       console.log(words, readFileSync(new URL('../words.txt', import.meta.url), 'utf8'));`,
    );
    expect(await Promise.all([said(), said(), said()])).toEqual(Array(3).fill('one beside'));
    write('core/src/words.ts', 'export const words: string = "another";');
    expect(await said()).toBe('another beside');
  });

  it('are compiled as they are met where nothing can be kept', async () => {
    write('core/src/cli/main.ts', `const words: string = 'not kept'; console.log(words);`);
    const cache = join(folder, 'node_modules/.cache');
    rmSync(cache, { recursive: true, force: true });
    writeFileSync(cache, '');
    expect(await said()).toBe('not kept');
    rmSync(cache);
  });

  it('mean what is written where objects begin with what others hold', async () => {
    const source = `
      const a = { x: 1, y: 2 };
      const made = (more) => ({ ...a, y: 3, z: { ...a, y: 4, ...more }, ...more, ...{ ...a, w: [{ ...a, v: 5 }] }, u: 6, });
      const { x, ...rest } = made({ x: 7 });
      console.log(JSON.stringify([made(undefined), made({ y: 8, t: 9 }), rest, { ...a, get y() { return 10; } }]));`;
    write('core/src/cli/main.ts', source);
    const { stdout } = await promisify(execFile)(process.execPath, ['-e', source]);
    expect(await said()).toBe(stdout.trim());
  });
});
