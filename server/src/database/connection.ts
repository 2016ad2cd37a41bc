import type { DataSource } from 'typeorm';

/** The parts used of better-sqlite3's connection below TypeORM. */
export interface Connection {
  prepare(sql: string): { run(...values: readonly unknown[]): { changes: number }; pluck(): { get(): unknown } };
  transaction<T>(work: () => T): () => T;
  /** Copies the database as it is now, while it is used (SQLite, online backup). */
  backup(path: string): Promise<unknown>;
  pragma(text: string, options?: { simple: boolean }): unknown;
}

export const connectionOf = (dataSource: DataSource): Connection => (dataSource.driver as unknown as { databaseConnection: Connection }).databaseConnection;
