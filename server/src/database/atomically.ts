import type { DataSource } from 'typeorm';
import { connectionOf } from './connection';

/** Carries out one statement. @returns how many rows it changed */
export type RunStatement = (sql: string, ...values: readonly unknown[]) => number;

/**
 * Writes that belong together, as one transaction without a pause in it: the connection is shared, and what another request writes
 * meanwhile must not become part of it. What is thrown inside undoes all of it.
 */
export function atomically<T>(dataSource: DataSource, work: (run: RunStatement) => T): T {
  const connection = connectionOf(dataSource);
  return connection.transaction(() => work((sql, ...values) => connection.prepare(sql).run(...values).changes))();
}
