import { readFile } from 'node:fs/promises';
import type { Picture } from '@jentrix/core/api';
import { type DataSource, In, type Repository } from 'typeorm';
import { LargeBytes } from '../database/large-bytes';
import { notFound } from '../http/problem';
import type { Workshop } from '../pool/workshop';
import { PictureEntity } from './picture.entity';
import { pictureTasks } from './tasks';

/** Largest picture file, in bytes. */
export const MAX_PICTURE_BYTES = 12 * 1024 * 1024;

/** Pictures for backgrounds. */
export class PicturesService {
  private readonly rows: Repository<PictureEntity>;
  private readonly files: LargeBytes;

  constructor(
    dataSource: DataSource,
    private readonly workshop: Workshop,
  ) {
    this.rows = dataSource.getRepository(PictureEntity);
    this.files = new LargeBytes(dataSource);
  }

  /**
   * Keeps a picture: PNG, JPEG, WebP, or SVG, which is written anew from what it draws, so that scripts, links and anything
   * outside it are gone. The same content is kept once.
   * @throws ProblemError 422 for anything else, or one that is too large or costs too much
   */
  async keep(bytes: Buffer): Promise<Picture> {
    const { spool } = this.workshop;
    return spool.lend(bytes, async (path) => {
      const out = spool.fresh();
      try {
        const { type, width, height, digest } = await this.workshop.run(pictureTasks.takePicture, { path, out });
        const id = digest.slice(0, 32);
        if (!(await this.rows.existsBy({ id }))) {
          await this.files.write(`picture-${id}`, await readFile(out));
          await this.rows.upsert({ id, type, width, height }, ['id']);
        }
        return { id, type, width, height };
      } finally {
        await spool.discard(out);
      }
    });
  }

  /** @throws ProblemError 404 */
  async read(id: string): Promise<{ type: string; bytes: Buffer }> {
    const row = await this.rows.findOneBy({ id });
    const bytes = row && (await this.files.read(`picture-${id}`));
    if (!bytes) throw notFound('picture');
    return { type: row.type, bytes };
  }

  /** Pictures as files, with their media types; ones that are gone are left out. */
  async paths(ids: readonly string[]): Promise<Record<string, { type: string; path: string }>> {
    const paths: Record<string, { type: string; path: string }> = {};
    for (const { id, type } of ids.length > 0 ? await this.rows.findBy({ id: In([...ids]) }) : []) {
      paths[id] = { type, path: await this.workshop.spool.place(`picture-${id}`, async () => (await this.read(id)).bytes) };
    }
    return paths;
  }
}
