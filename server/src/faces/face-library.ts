import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type FaceEntry, type FaceList, faceEntrySchema } from '@jentrix/core/api';
import { Face, FaceError, startPosition } from '@jentrix/core/face';
import { type Job, replaceFace } from '@jentrix/core/job';
import { FaceSet, facesOf } from '@jentrix/core/setting';
import { measureAnatomy } from '@jentrix/core/spacing';
import type { DataSource, Repository } from 'typeorm';
import decodeWoff2 from 'woff2-encoder/decompress';
import { z } from 'zod';
import type { CatalogueService } from '../catalogue/catalogue.service';
import { ProblemError, notFound } from '../http/problem';
import type { JobsService } from '../jobs/jobs.service';
import { FaceEntity, FavouriteEntity } from './face.entity';

const shippedSchema = z.array(z.object({ id: z.string(), file: z.string(), licence: z.string() }));

/** The face that stands in for those a job names and the library lacks. */
const STAND_IN = 'source-sans-3-regular';
/** How many opened faces are kept. */
const MOST_OPEN = 60;

type Fields = Omit<FaceEntry, 'source' | 'favourite'>;

/** The faces at hand: shipped, taken from the catalogue, uploaded. Listed, served, and opened for setting. */
export class FaceLibrary {
  private readonly shipped: z.infer<typeof shippedSchema>;
  private opened = new FaceSet(STAND_IN);
  private readonly faces: Repository<FaceEntity>;
  private readonly favourites: Repository<FavouriteEntity>;
  private listing: Promise<FaceEntry[]> | undefined;

  /** @param folder holds `faces.json` and the font files it names. */
  constructor(
    private readonly folder: string,
    readonly catalogue: CatalogueService,
    dataSource: DataSource,
  ) {
    this.shipped = shippedSchema.parse(JSON.parse(readFileSync(join(folder, 'faces.json'), 'utf8')));
    this.faces = dataSource.getRepository(FaceEntity);
    this.favourites = dataSource.getRepository(FavouriteEntity);
  }

  /** All faces at hand. The shipped files are read once in the life of the library. */
  async list(): Promise<FaceList> {
    this.listing ??= this.readShipped();
    const [shipped, rows, liked] = await Promise.all([this.listing, this.faces.find({ order: { addedAt: 'ASC' } }), this.favourites.find()]);
    const favourites = new Set(liked.map(({ faceId }) => faceId));
    const added = rows.map((row) => entryOf(row));
    return { items: [...shipped, ...added].map((face) => ({ ...face, favourite: favourites.has(face.id) })), standInId: STAND_IN };
  }

  /** A face's file: a path, or the bytes of an uploaded one; undefined for a face that isn't here. */
  async file(id: string): Promise<string | Buffer | undefined> {
    const entry = this.shipped.find((face) => face.id === id);
    if (entry) return join(this.folder, entry.file);
    const row = await this.faces.createQueryBuilder('face').addSelect('face.bytes').where('face.id = :id', { id }).getOne();
    if (!row) return undefined;
    return row.source === 'catalogue' ? this.catalogue.file(id) : (row.bytes ?? undefined);
  }

  /** The library with every face a job names opened. */
  async forJob(job: Job): Promise<FaceSet> {
    const named = job.sheets.flatMap((sheet) => sheet.blocks.flatMap(facesOf));
    if (this.opened.size > MOST_OPEN) this.opened = new FaceSet(STAND_IN);
    const opened = this.opened;
    for (const id of new Set([STAND_IN, ...named])) {
      if (opened.has(id)) continue;
      const file = await this.file(id);
      if (file === undefined) continue;
      const face = await openBytes(typeof file === 'string' ? await readFile(file) : file);
      if (opened.has(id)) face.dispose();
      else opened.add(id, face);
    }
    return opened;
  }

  /** Puts a face of the catalogue into the type case. @throws ProblemError 404 */
  async addFromCatalogue(id: string): Promise<FaceEntry> {
    const listed = this.catalogue.entry(id);
    if (!listed) throw notFound('face');
    const { file: _file, ...fields } = listed;
    const row = { id, source: 'catalogue' as const, entry: JSON.stringify(fields), digest: null, bytes: null, addedAt: new Date().toISOString() };
    await this.faces.createQueryBuilder().insert().values(row).orIgnore().execute();
    return { ...fields, source: 'catalogue', favourite: (await this.favourites.findOneBy({ faceId: id })) !== null };
  }

  /**
   * Keeps an uploaded font after opening it; a file that is here already is not kept twice.
   * @throws ProblemError 422 saying what is wrong with the file; nothing is kept then
   */
  async upload(bytes: Buffer): Promise<{ entry: FaceEntry; isNew: boolean }> {
    const digest = createHash('sha256').update(bytes).digest('hex');
    const known = await this.faces.findOneBy({ digest });
    if (known) return { entry: { ...entryOf(known), favourite: false }, isNew: false };
    const id = `upload-${digest.slice(0, 16)}`;
    const fields = await describe(id, bytes, '');
    await this.faces.insert({ id, source: 'upload', entry: JSON.stringify(fields), digest, bytes, addedAt: new Date().toISOString() });
    return { entry: { ...fields, source: 'upload', favourite: false }, isNew: true };
  }

  /**
   * Takes a face out of the type case. Jobs that use it get the stand-in that was named.
   * @throws ProblemError 409 with the titles of the jobs that use it where no stand-in is named; 404; 403 for a shipped face
   */
  async remove(id: string, standInId: string | undefined, jobs: JobsService): Promise<void> {
    if (this.shipped.some((face) => face.id === id)) throw new ProblemError(403, 'shipped', 'Shipped faces stay', 'This face came with Jentrix.');
    if (!(await this.faces.existsBy({ id }))) throw notFound('face');
    const using = await jobs.holding(`"faceId":"${id}"`);
    if (using.length > 0 && standInId === undefined) {
      const titles = using.map(({ title }) => title);
      throw new ProblemError(409, 'in-use', 'The face is in use', `It is used in ${titles.slice(0, 3).join(', ')}. Name a face to stand in for it.`, {
        titles,
      });
    }
    if (standInId !== undefined && (standInId === id || (await this.file(standInId)) === undefined)) throw notFound('face to stand in');
    if (standInId !== undefined) await jobs.rewrite(`"faceId":"${id}"`, (job) => replaceFace(job, id, standInId));
    await this.faces.delete({ id });
    await this.favourites.delete({ faceId: id });
    this.opened = new FaceSet(STAND_IN);
  }

  /** @throws ProblemError 404 */
  async setFavourite(id: string, favourite: boolean): Promise<void> {
    if ((await this.file(id)) === undefined) throw notFound('face');
    if (favourite) await this.favourites.save({ faceId: id });
    else await this.favourites.delete({ faceId: id });
  }

  private async readShipped(): Promise<FaceEntry[]> {
    const items: FaceEntry[] = [];
    for (const { id, file, licence } of this.shipped) {
      items.push({ ...(await describe(id, await readFile(join(this.folder, file)), licence)), source: 'shipped', favourite: false });
    }
    return items;
  }
}

const storedSchema = faceEntrySchema.omit({ source: true, favourite: true });

function entryOf({ entry, source }: FaceEntity): FaceEntry {
  return { ...storedSchema.parse(JSON.parse(entry)), source, favourite: false };
}

/** Opens a font to read its names and measure it. @throws ProblemError 422 */
async function describe(id: string, bytes: Uint8Array, licence: string): Promise<Fields> {
  try {
    const face = await openBytes(bytes);
    try {
      const { family, style, axes, features } = face;
      return { id, family, style, licence, anatomy: measureAnatomy(face.instance(startPosition(axes, 24))), axes: [...axes], features: [...features] };
    } finally {
      face.dispose();
    }
  } catch (error) {
    if (error instanceof FaceError) throw new ProblemError(422, 'bad-font', 'The font can’t be used', error.message, { code: error.code });
    throw error;
  }
}

/** Opens any font file the server may meet, WOFF2 included. @throws FaceError */
export function openBytes(bytes: Uint8Array): Promise<Face> {
  return Face.open(new Uint8Array(bytes), { decodeWoff2: (data) => decodeWoff2(data) });
}
