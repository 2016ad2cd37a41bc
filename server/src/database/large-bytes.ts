import { setImmediate as nextTurn } from 'node:timers/promises';
import type { DataSource } from 'typeorm';
import { BytesEntity } from './bytes.entity';

/** Size of a part, in bytes. */
export const PART_BYTES = 1024 ** 2;

/** Files in the database, in parts, with room for other requests between them. Who writes a file names it in a row of its own afterwards. */
export class LargeBytes {
  constructor(private readonly dataSource: DataSource) {}

  /** Writes a file; what an unfinished attempt has left is written over. */
  async write(owner: string, bytes: Buffer): Promise<void> {
    const rows = this.dataSource.getRepository(BytesEntity);
    for (let part = 0; part * PART_BYTES < bytes.length; part++) {
      await rows.upsert({ owner, part, bytes: bytes.subarray(part * PART_BYTES, (part + 1) * PART_BYTES) }, ['owner', 'part']);
      await nextTurn();
    }
  }

  /** @returns undefined for a file that isn't there */
  async read(owner: string): Promise<Buffer | undefined> {
    const parts: Buffer[] = [];
    for (;;) {
      const row = await this.dataSource.getRepository(BytesEntity).findOneBy({ owner, part: parts.length });
      if (!row) return parts.length > 0 ? Buffer.concat(parts) : undefined;
      parts.push(row.bytes);
      await nextTurn();
    }
  }
}
