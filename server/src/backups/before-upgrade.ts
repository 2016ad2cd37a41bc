import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { DataSource } from 'typeorm';
import { connectionOf } from '../database/connection';
import { copyName, letOldCopiesGo } from './copies';

/** Copies a database before its tables are brought up to date. @param folder where the copies lie */
export async function copyOf(dataSource: DataSource, folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  await connectionOf(dataSource).backup(join(folder, copyName(new Date(), 'before-upgrade')));
  letOldCopiesGo(folder);
}
