/** One server owns a data folder. */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { WordedError } from '@jentrix/core/base';

/** The folder belongs to a server that runs, or can't be written. */
export class OwnedError extends WordedError {
  override readonly name = 'OwnedError';
}

export interface Owner {
  /** Says where this server answers, for whoever is refused the folder. */
  answersAt(address: string): void;
  release(): void;
}

/**
 * Takes a data folder for this process. The lock is SQLite's own on a file beside the database: the system lets it go with the process,
 * however that ends, so that none is ever stale.
 * @throws OwnedError where another process has it, with its address
 */
export function own(folder: string): Owner {
  const [lock, told] = [join(folder, 'server.lock'), join(folder, 'server.json')];
  let database: Database.Database;
  try {
    mkdirSync(folder, { recursive: true });
    database = new Database(lock, { timeout: 0 });
  } catch (error) {
    throw new OwnedError(`Jentrix can’t write to its data folder ${folder}: ${error instanceof Error ? error.message : String(error)}`);
  }
  try {
    database.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    database.close();
    if (!(error instanceof Database.SqliteError && error.code.startsWith('SQLITE_BUSY'))) {
      throw new OwnedError(`Jentrix can’t write to its data folder ${folder}: ${error instanceof Error ? error.message : String(error)}`);
    }
    const address = addressIn(told);
    throw new OwnedError(
      `Jentrix already runs on the data folder ${folder}${address ? `, at ${address}` : ''}.\n` +
        'Open that address, or end that server first. To run a second one, name another folder in JENTRIX_DATA.',
    );
  }
  return {
    answersAt: (address) => writeFileSync(told, JSON.stringify({ pid: process.pid, address })),
    release: () => {
      rmSync(told, { force: true });
      database.close();
    },
  };
}

/** Where the server that has the folder says it answers. */
function addressIn(told: string): string | undefined {
  try {
    const { address } = JSON.parse(readFileSync(told, 'utf8')) as { address?: unknown };
    return typeof address === 'string' ? address : undefined;
  } catch {
    return undefined;
  }
}
