/** The file of the database while the server runs: whether it is still there, and how it comes back. */
import { mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import type { DataSource } from 'typeorm';
import { GONE_PROBLEM, ProblemError } from '../http/problem';
import { type Connection, connectionOf } from './connection';

/** The files beside a database (SQLite, write-ahead log). */
const BESIDE = ['-wal', '-shm'];

export class DatabaseFile {
  private opened: { ino: number; dev: number } | undefined;
  private working: string | undefined;

  /** @param path of the file; `:memory:` is always there. */
  constructor(
    private readonly dataSource: DataSource,
    readonly path: string,
  ) {
    this.look();
  }

  /** False once the file that is open is no longer at its place. */
  get isThere(): boolean {
    if (!this.opened) return true;
    const now = statSync(this.path, { throwIfNoEntry: false });
    return now?.ino === this.opened.ino && now.dev === this.opened.dev && now.size > 0;
  }

  /** @throws ProblemError 503 while the file is gone, or is being replaced */
  mustBeThere(): void {
    if (this.working !== undefined) throw new ProblemError(503, 'busy', 'The database is busy', `${this.working} Try again in a moment.`);
    if (!this.isThere) throw GONE_PROBLEM;
  }

  get connection(): Connection {
    return connectionOf(this.dataSource);
  }

  /** How many rows this server has changed so far. */
  get changes(): unknown {
    return this.connection.prepare('SELECT total_changes() AS changes').pluck().get();
  }

  /**
   * Writes the database again from what is still open of it, where its file is gone. Nothing that was saved is lost.
   * @param claim takes the folder for this server: the lock it had has gone with the old one. @throws what `claim` throws; nothing is written then
   */
  async writeAgain(claim: () => void): Promise<void> {
    if (this.isThere) return;
    await this.replace('The database is being written again.', async (unfinished) => {
      claim();
      await this.connection.backup(unfinished);
    });
  }

  /** Puts another file in its place. @param make writes it at a path. @throws what `make` throws; the database is as it was then */
  async replace(says: string, make: (path: string) => Promise<void>): Promise<void> {
    this.mustNotWork();
    this.working = says;
    const unfinished = `${this.path}.unfinished`;
    try {
      mkdirSync(dirname(this.path), { recursive: true });
      rmSync(unfinished, { force: true });
      await make(unfinished);
      await this.dataSource.driver.disconnect();
      try {
        for (const ending of BESIDE) rmSync(this.path + ending, { force: true });
        renameSync(unfinished, this.path);
      } finally {
        await this.dataSource.driver.connect();
      }
      this.look();
      await this.dataSource.runMigrations();
    } finally {
      rmSync(unfinished, { force: true });
      this.working = undefined;
    }
  }

  private mustNotWork(): void {
    if (this.working !== undefined) throw new ProblemError(503, 'busy', 'The database is busy', `${this.working} Try again in a moment.`);
  }

  private look(): void {
    this.opened = this.path === ':memory:' ? undefined : statSync(this.path);
  }
}
