import { existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Backup, BackupReason } from '@jentrix/core/api';
import type { DataSource } from 'typeorm';
import type { DatabaseFile } from '../database/database-file';
import { notFound } from '../http/problem';
import { copiesIn, copyName, copyToRestore, letOldCopiesGo, mustBeCopy } from './copies';

/** How often it is looked whether a day has passed since the last copy, in milliseconds. */
const LOOK_MS = 15 * 60_000;
const DAY_MS = 24 * 60 * 60_000;

/** Copies of the database: by itself once a day, before an upgrade and before a restore, and whenever somebody asks. */
export class BackupsService {
  private timer: NodeJS.Timeout | undefined;
  private making: Promise<unknown> = Promise.resolve();

  /**
   * @param folder where the copies lie. @param restored told once other data is in place.
   * @param claim takes the data folder for this server anew, where it is another one; throws where somebody else has it
   */
  constructor(
    private readonly dataSource: DataSource,
    private readonly file: DatabaseFile,
    readonly folder: string,
    private readonly restored: () => Promise<void>,
    private readonly claim: () => void,
  ) {}

  /** Makes a copy a day from now on. */
  start(): void {
    const look = (): void => {
      this.daily().catch((error: unknown) => console.error(`The daily backup failed: ${error instanceof Error ? error.message : String(error)}`));
    };
    look();
    this.timer = setInterval(look, LOOK_MS).unref();
  }

  stop(): void {
    clearInterval(this.timer);
  }

  list(): Backup[] {
    return copiesIn(this.folder);
  }

  /** @throws ProblemError 404 */
  pathOf(name: string): string {
    if (!this.list().some((copy) => copy.name === name)) throw notFound('backup');
    return join(this.folder, name);
  }

  /** Copies the database as it is now. @throws ProblemError 503 while it is gone */
  make(reason: BackupReason): Promise<Backup> {
    this.file.mustBeThere();
    // One after the other.
    const copy = (): Promise<Backup> => this.copy(reason);
    const made = this.making.then(copy, copy);
    this.making = made;
    return made;
  }

  /** Puts one of the copies in place of the data. @throws ProblemError 404; CopyError */
  async restore(name: string): Promise<void> {
    await this.restoreFile(this.pathOf(name));
  }

  /** Puts a copy in place of the data, which is copied before. @throws CopyError; nothing has changed then */
  async restoreFile(path: string): Promise<void> {
    mustBeCopy(
      path,
      this.dataSource.migrations.map((one) => one.constructor.name),
    );
    await this.file.replace('A backup is being restored.', async (unfinished) => {
      copyToRestore(path, unfinished);
      if (!this.file.isThere) return;
      // Nothing new is written by now. What was on its way is in the copy too.
      let changes: unknown;
      do {
        changes = this.file.changes;
        await this.copy('before-restore');
      } while (this.file.changes !== changes);
    });
    await this.restored();
  }

  /** Writes the database again where its file is gone. */
  async writeAgain(): Promise<void> {
    await this.file.writeAgain(this.claim);
    await this.restored();
  }

  private async daily(): Promise<void> {
    if (!this.file.isThere) return;
    const [last] = this.list();
    if (!last || Date.now() - Date.parse(last.createdAt) >= DAY_MS) await this.make('daily');
  }

  private async copy(reason: BackupReason): Promise<Backup> {
    // The data folder itself is never made anew here: it may have been moved, and come back.
    if (!existsSync(this.folder)) await mkdir(this.folder);
    const name = copyName(new Date(), reason);
    const unfinished = join(this.folder, `${name}.unfinished`);
    try {
      await this.file.connection.backup(unfinished);
      await rename(unfinished, join(this.folder, name));
    } catch (error) {
      await rm(unfinished, { force: true });
      throw error;
    }
    letOldCopiesGo(this.folder);
    const made = this.list().find((copy) => copy.name === name);
    if (!made) throw notFound('backup');
    return made;
  }
}
