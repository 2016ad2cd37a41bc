/** A folder for what goes between the server and its processes. Each server has its own. */
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { GONE_PROBLEM } from '../http/problem';

export class Spool {
  private readonly placed = new Map<string, Promise<string>>();

  /** @param folder is made, and emptied where it is there. @param root that it lies in */
  constructor(
    private readonly folder: string,
    private readonly root = dirname(folder),
  ) {
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder, { recursive: true });
  }

  /** A path that nobody has yet, in a folder that is there. */
  fresh(): string {
    // What it lies in is never made anew: it may have been moved, and come back.
    if (!existsSync(this.root)) throw GONE_PROBLEM;
    mkdirSync(this.folder, { recursive: true });
    return join(this.folder, randomUUID());
  }

  /** Writes bytes that never change once, and again where somebody took the file away; later calls with the same name find them there. @returns the path */
  async place(name: string, bytes: () => Promise<Uint8Array>): Promise<string> {
    let path = this.placed.get(name);
    if (!path || !existsSync(await path)) {
      path = bytes().then((read) => this.write(join(this.folder, name), read));
      path.catch(() => this.placed.delete(name));
      this.placed.set(name, path);
    }
    return path;
  }

  /** Runs work on a fresh file with the given bytes, which is gone afterwards. */
  async lend<T>(bytes: Uint8Array, work: (path: string) => Promise<T>): Promise<T> {
    const path = this.fresh();
    try {
      await writeFile(path, bytes);
      return await work(path);
    } finally {
      await this.discard(path);
    }
  }

  async discard(...paths: readonly string[]): Promise<void> {
    await Promise.all(paths.map((path) => rm(path, { force: true })));
  }

  /** Forgets what was placed: names may stand for something else from now on. */
  forget(): void {
    this.placed.clear();
  }

  close(): void {
    rmSync(this.folder, { recursive: true, force: true });
  }

  private async write(path: string, bytes: Uint8Array): Promise<string> {
    const unfinished = this.fresh();
    await writeFile(unfinished, bytes);
    await rename(unfinished, path);
    return path;
  }
}
