/** Backing up and restoring from the command line, without a page. Environment: JENTRIX_DATA (the data folder). */
import { copyFileSync, existsSync, mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database from 'better-sqlite3';
import { MIGRATIONS } from '../database/migrations';
import { OwnedError, own } from '../database/owner';
import { CopyError, copyName, copyToRestore, damageOf, letOldCopiesGo, mustBeCopy } from './copies';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../../..');
const data = resolve(process.env['JENTRIX_DATA'] ?? join(root, 'data'));
const database = join(data, 'jentrix.sqlite');

const fail = (message: string): never => {
  console.error(message);
  process.exit(1);
};
const megabytes = (path: string): string => `${(statSync(path).size / 1024 ** 2).toFixed(1)} MB`;

/** Copies the data into a file, which must not be there yet. */
export async function backUp(file: string | undefined): Promise<void> {
  if (!file) return fail('Say where the backup goes: npm run backup -- FILE.sqlite');
  const to = resolve(file);
  if (!existsSync(database)) return fail(`There is no data in ${data}. Name another folder in JENTRIX_DATA.`);
  if (existsSync(to)) return fail(`${to} is there already. Name another file.`);
  mkdirSync(dirname(to), { recursive: true });
  const open = new Database(database, { readonly: true });
  try {
    await open.backup(to);
  } catch (error) {
    rmSync(to, { force: true });
    return fail(`No backup was made: ${error instanceof Error ? error.message : String(error)}`);
  } finally {
    open.close();
  }
  console.log(`Backed up ${data} to ${to}, ${megabytes(to)}.`);
}

/** Puts a backup in place of the data. What is there now is copied into the folder of backups first, whole or damaged. */
export async function restore(file: string | undefined): Promise<void> {
  if (!file) return fail('Say which backup: npm run restore -- FILE.sqlite');
  const from = resolve(file);
  if (!existsSync(from)) return fail(`There is no ${from}.`);
  try {
    mustBeCopy(
      from,
      MIGRATIONS.map(({ name }) => name),
    );
    const owner = own(data);
    try {
      await keepWhatIsThere();
      const unfinished = `${database}.unfinished`;
      copyToRestore(from, unfinished);
      for (const ending of ['-wal', '-shm']) rmSync(database + ending, { force: true });
      renameSync(unfinished, database);
    } finally {
      owner.release();
    }
  } catch (error) {
    if (error instanceof CopyError) return fail(`${error.message} Nothing was changed.`);
    if (error instanceof OwnedError) return fail(`${error.message}\nA server that runs restores from the shelf’s menu.`);
    throw error;
  }
  console.log(`Restored ${from} (${megabytes(from)}) to ${data}.`);
}

async function keepWhatIsThere(): Promise<void> {
  if (!existsSync(database)) return;
  const folder = join(data, 'backups');
  mkdirSync(folder, { recursive: true });
  if (damageOf(database) === undefined) {
    const open = new Database(database, { readonly: true });
    const name = copyName(new Date(), 'before-restore');
    await open.backup(join(folder, name)).finally(() => open.close());
    letOldCopiesGo(folder);
    console.log(`What was there is in ${join(folder, name)}.`);
    return;
  }
  const damaged = join(folder, `damaged-${new Date().toISOString().replace(/[:.]/g, '-')}.sqlite`);
  for (const ending of ['', '-wal']) if (existsSync(database + ending)) copyFileSync(database + ending, damaged + ending);
  console.log(`The damaged database is in ${damaged}.`);
}
