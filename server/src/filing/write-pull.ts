import { randomUUID } from 'node:crypto';
import { deflateRawSync } from 'node:zlib';
import type { RunStatement } from '../database/atomically';
import type { FiledPull } from './file-pull';

/** Writes a pull of a job, and those of its pieces that are not there yet. @returns its identifier */
export function writePull(run: RunStatement, jobId: string, createdAt: string, filed: FiledPull): string {
  const id = randomUUID();
  run(
    `INSERT INTO "pull" ("id", "jobId", "name", "reason", "createdAt", "evenness", "findings", "title", "uses", "root") VALUES (?, ?, ?, ?, ?, NULL, NULL, ?, ?, ?)`,
    ...[id, jobId, filed.name, filed.reason, createdAt, filed.title, JSON.stringify(filed.uses), deflateRawSync(filed.root)],
  );
  for (const [key, text] of filed.pieces) {
    run('INSERT OR IGNORE INTO "pull_piece" ("jobId", "key", "bytes") VALUES (?, ?, ?)', jobId, key, deflateRawSync(text));
    run('INSERT INTO "pull_part" ("pullId", "jobId", "key") VALUES (?, ?, ?)', id, jobId, key);
  }
  return id;
}
