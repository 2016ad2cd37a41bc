/** Copies of the database as files: checked, listed, and deleted. */
import { copyFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { BACKUP_REASONS, type Backup, type BackupReason } from '@jentrix/core/api';
import { FileError } from '@jentrix/core/base';

/** How many copies of each reason are kept. */
export const KEPT_COPIES = 7;

/** A file that is no copy of a Jentrix database, or a damaged one. */
export class CopyError extends FileError {
  override readonly name = 'CopyError';
}

const NAME = /^jentrix-(\d{4}-\d\d-\d\d)T(\d\d)-(\d\d)-(\d\d)-(\d{3})Z-([a-z-]+)\.sqlite$/;

/** The name of a copy made at a moment. */
export const copyName = (at: Date, reason: BackupReason): string => `jentrix-${at.toISOString().replace(/[:.]/g, '-')}-${reason}.sqlite`;

/** The copies in a folder, the newest first. */
export function copiesIn(folder: string): Backup[] {
  let names: string[];
  try {
    names = readdirSync(folder);
  } catch {
    return [];
  }
  return names
    .flatMap((name): Backup[] => {
      const [, date, hours, minutes, seconds, milliseconds, reason] = NAME.exec(name) ?? [];
      const known = BACKUP_REASONS.find((one) => one === reason);
      const size = statSync(join(folder, name), { throwIfNoEntry: false })?.size;
      if (!known || size === undefined) return [];
      return [{ name, createdAt: `${date}T${hours}:${minutes}:${seconds}.${milliseconds}Z`, bytes: size, reason: known }];
    })
    .sort((a, b) => (a.createdAt < b.createdAt ? 1 : -1));
}

/** Lets the oldest copies of each reason go. */
export function letOldCopiesGo(folder: string): void {
  const all = copiesIn(folder);
  for (const reason of BACKUP_REASONS) {
    for (const { name } of all.filter((copy) => copy.reason === reason).slice(KEPT_COPIES)) rmSync(join(folder, name), { force: true });
  }
}

/** Whether every page of a database can be read (SQLite, `quick_check`); what is wrong, in its words. */
export function damageOf(path: string): string | undefined {
  let database: Database.Database | undefined;
  try {
    database = new Database(path, { readonly: true, fileMustExist: true });
    const [first] = database.pragma('quick_check(1)') as { quick_check: string }[];
    return first?.quick_check === 'ok' ? undefined : (first?.quick_check ?? 'It can’t be checked.');
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  } finally {
    database?.close();
  }
}

/**
 * Makes sure that a file is a whole database of Jentrix that this version can open.
 * @param known names of the migrations there are here
 * @throws CopyError
 */
export function mustBeCopy(path: string, known: readonly string[]): void {
  const damage = damageOf(path);
  if (damage !== undefined) throw new CopyError(/not a database/i.test(damage) ? 'That is no backup of Jentrix.' : `That backup is damaged: ${damage}`);
  const database = new Database(path, { readonly: true, fileMustExist: true });
  try {
    const tables = database.prepare("SELECT name FROM sqlite_master WHERE type = 'table' AND name IN ('job', 'migrations')").all();
    if (tables.length < 2) throw new CopyError('That is no backup of Jentrix: it holds other data.');
    const made = database.prepare('SELECT name FROM migrations').all() as { name: string }[];
    if (made.some(({ name }) => !known.includes(name))) throw new CopyError('That backup was made by a newer Jentrix. Update Jentrix first.');
  } finally {
    database.close();
  }
}

/** The step by which revisions rise after a restore, so that they are newer than any a page has seen: revisions go on from this far above. */
const REVISIONS_ON = 100_000;

/** Copies a backup to where it is to be opened, with revisions that no page has seen, so that none writes over it. */
export function copyToRestore(from: string, to: string): void {
  copyFileSync(from, to);
  const database = new Database(to);
  try {
    database.pragma('journal_mode = DELETE');
    database.exec(`UPDATE "job" SET "revision" = "revision" + ${REVISIONS_ON}`);
  } finally {
    database.close();
  }
}

/** The newest copy in a folder that is whole. */
export const newestGood = (folder: string): Backup | undefined => copiesIn(folder).find(({ name }) => damageOf(join(folder, name)) === undefined);
