import type { DataSource } from 'typeorm';

interface Connection {
  prepare(sql: string): { run(...values: readonly unknown[]): { changes: number } };
  transaction<T>(work: () => T): () => T;
}

/** Carries out one statement. @returns how many rows it changed */
export type Run = (sql: string, ...values: readonly unknown[]) => number;

/**
 * Writes that belong together, as one transaction without a pause in it: the connection is shared, and what another request writes
 * meanwhile must not become part of it. What is thrown inside undoes all of it.
 */
export function atomically<T>(dataSource: DataSource, work: (run: Run) => T): T {
  const { databaseConnection } = dataSource.driver as unknown as { databaseConnection: Connection };
  return databaseConnection.transaction(() => work((sql, ...values) => databaseConnection.prepare(sql).run(...values).changes))();
}
