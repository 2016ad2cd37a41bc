import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FileCache } from './file-cache';

describe('file cache', () => {
  let folder: string;
  let made: string[];
  let count: number;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'jentrix-cache-'));
    made = [];
    count = 0;
  });
  afterEach(() => rmSync(folder, { recursive: true }));

  const cacheOf = (bytes: number, files: number, kept = 'kept') => new FileCache(join(folder, kept), () => join(folder, `f${++count}`), { bytes, files });
  const put =
    (name: string, size = 10) =>
    (path: string): Promise<void> => {
      made.push(name);
      writeFileSync(path, name.repeat(size));
      return Promise.resolve();
    };

  it('makes each file once, for all who ask at the same time', async () => {
    const cache = cacheOf(1000, 10);
    const paths = await Promise.all([cache.get('a', put('a')), cache.get('a', put('a')), cache.get('b', put('b'))]);
    expect(paths[0]).toBe(paths[1]);
    expect(await cache.get('a', put('a'))).toBe(paths[0]);
    expect(made).toEqual(['a', 'b']);
    expect(readFileSync(paths[0], 'utf8')).toBe('aaaaaaaaaa');
  });

  it('keeps within its bounds, and what was asked for last', async () => {
    const cache = cacheOf(35, 10);
    const first = await cache.get('a', put('a'));
    await cache.get('b', put('b'));
    await cache.get('c', put('c'));
    await cache.get('a', put('a'));
    await cache.get('d', put('d'));
    expect(existsSync(first)).toBeTrue();
    expect(readdirSync(join(folder, 'kept')).sort()).toEqual(['a', 'c', 'd']);
    await cache.get('b', put('b'));
    expect(made).toEqual(['a', 'b', 'c', 'd', 'b']);
    const few = cacheOf(1000, 2, 'few');
    for (const name of ['x', 'y', 'z']) await few.get(name, put(name));
    expect(readdirSync(join(folder, 'few'))).toEqual(['y', 'z']);
  });

  it('finds what an earlier one has made, within its own bounds', async () => {
    const first = cacheOf(1000, 10);
    for (const name of ['a', 'b', 'c']) utimesSync(await first.get(name, put(name)), made.length, made.length);
    const second = cacheOf(35, 10);
    expect(readFileSync(await second.get('b', put('b')), 'utf8')).toBe('bbbbbbbbbb');
    await second.get('d', put('d'));
    expect(made).toEqual(['a', 'b', 'c', 'd']);
    expect(readdirSync(join(folder, 'kept')).sort()).toEqual(['b', 'c', 'd']);
  });

  it('passes over what is no whole file: one that was cut off, a folder, a link that leads nowhere', async () => {
    mkdirSync(join(folder, 'kept/b'), { recursive: true });
    writeFileSync(join(folder, 'kept/a'), '');
    symlinkSync(join(folder, 'nowhere'), join(folder, 'kept/c'));
    expect(readFileSync(await cacheOf(1000, 10).get('a', put('a')), 'utf8')).toBe('aaaaaaaaaa');
  });

  it('makes anew what somebody took away, the folder too', async () => {
    const cache = cacheOf(1000, 10);
    await cache.get('a', put('a'));
    rmSync(join(folder, 'kept'), { recursive: true });
    expect(readFileSync(await cache.get('a', put('a')), 'utf8')).toBe('aaaaaaaaaa');
  });

  it('keeps no failure', async () => {
    const cache = cacheOf(1000, 10);
    await expectAsync(cache.get('a', (path) => put('a')(path).then(() => Promise.reject(new Error('no'))))).toBeRejectedWithError('no');
    expect(readdirSync(folder)).toEqual([]);
    expect(existsSync(await cache.get('a', put('a')))).toBeTrue();
  });
});
