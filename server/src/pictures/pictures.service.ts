import { createHash } from 'node:crypto';
import type { Picture } from '@jentrix/core/api';
import type { Job } from '@jentrix/core/job';
import { Resvg } from '@resvg/resvg-js';
import { imageSize } from 'image-size';
import type { DataSource, Repository } from 'typeorm';
import { ProblemError, notFound } from '../http/problem';
import { PictureEntity } from './picture.entity';

/** Largest picture file, in bytes, and most pixels of one. */
export const MAX_PICTURE_BYTES = 12 * 1024 * 1024;
const MAX_PIXELS = 60_000_000;

const TYPES: Readonly<Record<string, string>> = { png: 'image/png', jpg: 'image/jpeg', webp: 'image/webp', svg: 'image/svg+xml' };

const refuse = (detail: string): ProblemError => new ProblemError(422, 'bad-picture', 'The picture can’t be used', detail);

/** Pictures for backgrounds. */
export class PicturesService {
  private readonly rows: Repository<PictureEntity>;

  constructor(dataSource: DataSource) {
    this.rows = dataSource.getRepository(PictureEntity);
  }

  /**
   * Keeps a picture: PNG, JPEG, WebP, or SVG, which is written anew from what it draws, so that scripts, links and anything
   * outside it are gone. The same content is kept once.
   * @throws ProblemError 422 for anything else or too large a picture
   */
  async keep(bytes: Buffer): Promise<Picture> {
    const { type, width, height } = look(bytes);
    if (width * height > MAX_PIXELS) throw refuse(`It has ${width} × ${height} pixels; at most ${MAX_PIXELS / 1e6} million are kept.`);
    const kept = type === 'image/svg+xml' ? redraw(bytes) : bytes;
    const id = createHash('sha256').update(kept).digest('hex').slice(0, 32);
    await this.rows.createQueryBuilder().insert().values({ id, type, width, height, bytes: kept }).orIgnore().execute();
    return { id, type, width, height };
  }

  /** @throws ProblemError 404 */
  async read(id: string): Promise<{ type: string; bytes: Buffer }> {
    const row = await this.rows.createQueryBuilder('picture').addSelect('picture.bytes').where('picture.id = :id', { id }).getOne();
    if (!row) throw notFound('picture');
    return { type: row.type, bytes: row.bytes };
  }

  /** The pictures a job shows, as `data:` addresses; ones that are gone are left out. */
  async forJob(job: Job): Promise<Map<string, string>> {
    const found = new Map<string, string>();
    for (const { background } of job.sheets) {
      if (background.kind !== 'picture' || found.has(background.pictureId)) continue;
      const picture = await this.read(background.pictureId).catch(() => undefined);
      if (picture) found.set(background.pictureId, `data:${picture.type};base64,${picture.bytes.toString('base64')}`);
    }
    return found;
  }
}

function look(bytes: Buffer): { type: string; width: number; height: number } {
  let size: ReturnType<typeof imageSize>;
  try {
    size = imageSize(bytes);
  } catch {
    throw refuse('It is not a PNG, JPEG, WebP or SVG picture, or it is damaged.');
  }
  const type = TYPES[size.type ?? ''];
  if (!type) throw refuse(`Pictures of the kind “${size.type ?? 'unknown'}” are not taken; use PNG, JPEG, WebP or SVG.`);
  if (!(size.width > 0 && size.height > 0)) throw refuse('It has no size.');
  return { type, width: Math.round(size.width), height: Math.round(size.height) };
}

function redraw(bytes: Buffer): Buffer {
  try {
    return Buffer.from(new Resvg(bytes, { font: { loadSystemFonts: false } }).toString());
  } catch (error) {
    throw refuse(`The SVG can’t be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}
