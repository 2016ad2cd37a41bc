/** Files that were made once and are kept while there is room: those asked for last stay. */
import { existsSync } from 'node:fs';
import { rm, stat } from 'node:fs/promises';

interface Kept {
  path: Promise<string>;
  bytes: number;
}

export class FileCache {
  /** In the order they were asked for. */
  private readonly kept = new Map<string, Kept>();
  private bytes = 0;

  /**
   * @param fresh gives paths nobody has.
   * @param limits how many bytes, and how many files, are kept at most.
   */
  constructor(
    private readonly fresh: () => string,
    private readonly limits: { bytes: number; files: number },
  ) {}

  /** The path of what a key stands for; made when it is not there, once for all who ask meanwhile. A failure isn't kept. */
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
    const entry: Kept = { path: this.make(key, make), bytes: 0 };
    this.kept.set(key, entry);
    return entry.path;
  }

  private async make(key: string, make: (path: string) => Promise<unknown>): Promise<string> {
    const path = this.fresh();
    try {
      await make(path);
      const { size } = await stat(path);
      const entry = this.kept.get(key);
      if (entry) {
        entry.bytes = size;
        this.bytes += size;
      }
      await this.makeRoom(key);
      return path;
    } catch (error) {
      this.kept.delete(key);
      await rm(path, { force: true });
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
