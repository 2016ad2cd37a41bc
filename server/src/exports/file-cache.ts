/** Files that were made once and are kept in a folder while there is room, also for the next server: those asked for last stay. */
import { existsSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';

interface CachedFile {
  path: Promise<string>;
  bytes: number;
}

export class FileCache {
  /** In the order they were asked for. */
  private readonly kept = new Map<string, CachedFile>();
  private bytes = 0;

  /**
   * @param folder where files lie by their keys; what is there already is kept too.
   * @param fresh gives paths nobody has, on the same disk.
   * @param limits how many bytes, and how many files, are kept at most.
   */
  constructor(
    private readonly folder: string,
    private readonly fresh: () => string,
    private readonly limits: { bytes: number; files: number },
  ) {
    for (const { key, bytes } of filesIn(folder)) {
      this.kept.set(key, { path: Promise.resolve(join(folder, key)), bytes });
      this.bytes += bytes;
    }
  }

  /**
   * The path of what a key stands for; made when it is not there, once for all who ask meanwhile. A failure isn't kept.
   * @param key a name that a file can have
   */
  async get(key: string, make: (path: string) => Promise<unknown>): Promise<string> {
    const known = this.kept.get(key);
    if (known) {
      const path = await known.path;
      if (existsSync(path)) {
        if (this.kept.delete(key)) this.kept.set(key, known);
        return path;
      }
      // Somebody took the file away.
      if (this.kept.get(key) === known) {
        this.kept.delete(key);
        this.bytes -= known.bytes;
      } else return this.get(key, make);
    }
    const entry: CachedFile = { path: this.make(key, make), bytes: 0 };
    this.kept.set(key, entry);
    return entry.path;
  }

  private async make(key: string, make: (path: string) => Promise<unknown>): Promise<string> {
    const unfinished = this.fresh();
    try {
      await make(unfinished);
      const { size } = await stat(unfinished);
      const path = join(this.folder, key);
      mkdirSync(this.folder, { recursive: true });
      await rename(unfinished, path);
      const entry = this.kept.get(key);
      if (entry) {
        entry.bytes = size;
        this.bytes += size;
      }
      await this.makeRoom(key);
      return path;
    } catch (error) {
      this.kept.delete(key);
      await rm(unfinished, { force: true });
      throw error;
    }
  }

  /** Lets the files go that nobody has asked for the longest. */
  private async makeRoom(except: string): Promise<void> {
    for (const [key, { path, bytes }] of [...this.kept]) {
      if (this.bytes <= this.limits.bytes && this.kept.size <= this.limits.files) return;
      if (key === except || bytes === 0) continue;
      this.kept.delete(key);
      this.bytes -= bytes;
      // Whoever is just reading it can go on: it is only no longer in the folder.
      await rm(await path, { force: true });
    }
  }
}

/** The files of a folder with their sizes in bytes, the oldest first; none where there is no folder. */
function filesIn(folder: string): { key: string; bytes: number }[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .flatMap((key) => {
      const found = statSync(join(folder, key), { throwIfNoEntry: false });
      // An empty file was cut off by the end of the machine.
      return found?.isFile() && found.size > 0 ? [{ key, bytes: found.size, at: found.mtimeMs }] : [];
    })
    .sort((a, b) => a.at - b.at);
}
