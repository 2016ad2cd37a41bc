import { join } from 'node:path';
import { type FaceEntry, type FaceList, faceEntrySchema } from '@jentrix/core/api';
import { fontAt, isCollection } from '@jentrix/core/face';
import { type StoredKind, fromStored, toStored } from '@jentrix/core/stored';
import { type DataSource, In, type Repository } from 'typeorm';
import type { CatalogueService } from './catalogue/catalogue.service';
import type { RunStatement } from '../database/atomically';
import { LargeBytes } from '../database/large-bytes';
import { ProblemError, notFound } from '../http/problem';
import type { JobsService } from '../jobs/jobs.service';
import type { Workshop } from '../pool/workshop';
import { asProblem } from './describe-font';
import { FaceEntity, FavouriteEntity } from './face.entity';
import { type Listed, readListed } from './listed';
import { faceTasks } from './tasks';

/** The face that stands in for those a job names and the library lacks. */
const STAND_IN = 'source-sans-3-regular';
/** Whoever may use a face that goes: jobs, and recipes. */
export interface FaceUsers {
  jobs: Pick<JobsService, 'using' | 'changeUsers'>;
  recipes: {
    /** The recipes in a face: their names, and the statements that give them another. */
    usingFace(faceId: string): Promise<{ names: string[]; replace: (run: RunStatement, by: string) => void }>;
  };
}

/** The faces at hand: shipped, taken from the catalogue, uploaded. Listed, served, and found as files for setting. */
export class FaceLibrary {
  private readonly shipped: readonly Listed[];
  readonly standInId = STAND_IN;
  private readonly faces: Repository<FaceEntity>;
  private readonly favourites: Repository<FavouriteEntity>;
  private readonly files: LargeBytes;

  /** @param folder holds `faces.json` and the font files it names. */
  constructor(
    private readonly folder: string,
    readonly catalogue: CatalogueService,
    dataSource: DataSource,
    private readonly workshop: Workshop,
  ) {
    this.shipped = readListed(join(folder, 'faces.json'));
    this.faces = dataSource.getRepository(FaceEntity);
    this.favourites = dataSource.getRepository(FavouriteEntity);
    this.files = new LargeBytes(dataSource);
  }

  /** All faces at hand. */
  async list(): Promise<FaceList> {
    const [rows, liked] = await Promise.all([this.faces.find({ order: { addedAt: 'ASC' } }), this.favourites.find()]);
    const shipped = this.shipped.map(({ file: _file, ...fields }) => ({ ...fields, source: 'shipped' as const }));
    const favourites = new Set(liked.map(({ faceId }) => faceId));
    const added = await Promise.all(rows.map((row) => this.entryOf(row)));
    return { items: [...shipped, ...added].map((face) => ({ ...face, favourite: favourites.has(face.id) })), standInId: STAND_IN };
  }

  /** The path of a face's file; undefined for a face that isn't here. */
  async file(id: string): Promise<string | undefined> {
    const entry = this.shipped.find((face) => face.id === id);
    if (entry) return join(this.folder, entry.file);
    const row = await this.faces.findOneBy({ id });
    if (!row) return undefined;
    return row.source === 'catalogue' ? this.catalogue.file(id) : this.uploaded(id);
  }

  /** The font files of faces; of the stand-in always, and of none that isn't here. */
  async paths(ids: readonly string[]): Promise<Record<string, string>> {
    const wanted = [...new Set([STAND_IN, ...ids])];
    const paths: Record<string, string> = {};
    for (const { id, file } of this.shipped) if (wanted.includes(id)) paths[id] = join(this.folder, file);
    for (const { id, source } of await this.faces.findBy({ id: In(wanted) })) {
      const path = source === 'catalogue' ? this.catalogue.file(id) : await this.uploaded(id);
      if (path !== undefined) paths[id] = path;
    }
    return paths;
  }

  /** The licences that faces came with, as files; of none that came without. */
  async licences(ids: readonly string[]): Promise<Record<string, string>> {
    const { items } = await this.list();
    const named = items.filter(({ id, licence }) => licence !== '' && ids.includes(id));
    return Object.fromEntries(named.map(({ id, licence }) => [id, join(this.folder, 'licences', licence)]));
  }

  /** An uploaded font as a file. */
  private uploaded(id: string): Promise<string> {
    return this.workshop.spool.place(`face-${id}`, async () => {
      const bytes = await this.files.read(`face-${id}`);
      if (!bytes) throw notFound('face');
      return bytes;
    });
  }

  /** Puts a face of the catalogue into the type case. @throws ProblemError 404 */
  async addFromCatalogue(id: string): Promise<FaceEntry> {
    const listed = this.catalogue.entry(id);
    if (!listed) throw notFound('face');
    const { file: _file, ...fields } = listed;
    const row = { id, source: 'catalogue' as const, entry: JSON.stringify(toStored(STORED_FACE, fields)), digest: null, addedAt: new Date().toISOString() };
    await this.faces.createQueryBuilder().insert().values(row).orIgnore().execute();
    return { ...fields, source: 'catalogue', favourite: (await this.favourites.findOneBy({ faceId: id })) !== null };
  }

  /**
   * Keeps an uploaded font after opening it; a file that is here already is not kept twice.
   * @param font which font of a collection is kept, from 0.
   * @throws ProblemError 422 saying what is wrong with the file, or what fonts a collection holds where none was chosen; nothing is kept then
   */
  async upload(file: Buffer, font?: number): Promise<{ entry: FaceEntry; isNew: boolean }> {
    const bytes = isCollection(file) ? await this.outOfCollection(file, font) : file;
    const { fields: read, digest } = await this.workshop.spool.lend(bytes, (path) => this.workshop.run(faceTasks.describeFont, { path }));
    const known = await this.faces.findOneBy({ digest });
    if (known) return { entry: { ...(await this.entryOf(known)), favourite: false }, isNew: false };
    const id = `upload-${digest.slice(0, 16)}`;
    const fields = { id, licence: '', ...read };
    await this.files.write(`face-${id}`, bytes);
    await this.faces.upsert({ id, source: 'upload', entry: JSON.stringify(toStored(STORED_FACE, fields)), digest, addedAt: new Date().toISOString() }, ['id']);
    return { entry: { ...fields, source: 'upload', favourite: false }, isNew: true };
  }

  private async outOfCollection(file: Buffer, font: number | undefined): Promise<Buffer> {
    let chosen = font;
    if (chosen === undefined) {
      const fonts = await this.workshop.spool.lend(file, (path) => this.workshop.run(faceTasks.listFonts, { path }));
      if (fonts.length > 1) {
        throw new ProblemError(422, 'collection', 'The file holds several fonts', `It is a collection of ${fonts.length} fonts. Choose one.`, { fonts });
      }
      chosen = fonts[0]?.font ?? 0;
    }
    try {
      return Buffer.from(fontAt(file, chosen));
    } catch (error) {
      throw asProblem(error);
    }
  }

  /**
   * Takes a face out of the type case. Jobs and recipes that use it get the stand-in that was named.
   * @throws ProblemError 409 with the titles of the jobs that use it where no stand-in is named; 404; 403 for a shipped face
   */
  async remove(id: string, standInId: string | undefined, { jobs, recipes }: FaceUsers): Promise<void> {
    if (this.shipped.some((face) => face.id === id)) throw new ProblemError(403, 'shipped', 'Shipped faces stay', 'This face came with Jentrix.');
    if (!(await this.faces.existsBy({ id }))) throw notFound('face');
    const following = await recipes.usingFace(id);
    const titles = [...(await jobs.using('face', id)).map(({ title }) => title), ...following.names.map((name) => `the recipe ${name}`)];
    if (titles.length > 0 && standInId === undefined) {
      throw new ProblemError(409, 'in-use', 'The face is in use', `It is used in ${titles.slice(0, 3).join(', ')}. Choose a face to replace it.`, {
        titles,
      });
    }
    if (standInId !== undefined && (standInId === id || (await this.file(standInId)) === undefined)) throw notFound('replacement face');
    const also = (run: RunStatement): void => {
      following.replace(run, standInId ?? STAND_IN);
      run('DELETE FROM "face" WHERE "id" = ?', id);
      run('DELETE FROM "bytes" WHERE "owner" = ?', `face-${id}`);
      run('DELETE FROM "favourite" WHERE "faceId" = ?', id);
    };
    // Without a stand-in nothing uses the face, so that there is nothing to change.
    await jobs.changeUsers('face', id, { kind: 'face', from: id, to: standInId ?? STAND_IN }, also);
  }

  /** @throws ProblemError 404 */
  async setFavourite(id: string, favourite: boolean): Promise<void> {
    if ((await this.file(id)) === undefined) throw notFound('face');
    if (favourite) await this.favourites.upsert({ faceId: id }, ['faceId']);
    else await this.favourites.delete({ faceId: id });
  }

  /** A face as it was measured; one that was by an older version is measured again, and kept so. */
  private async entryOf(row: FaceEntity): Promise<FaceEntry> {
    const { id, source } = row;
    const stored = JSON.parse(row.entry) as { version?: number };
    if ((stored.version ?? 1) < STORED_FACE.version) {
      try {
        const path = await this.file(id);
        if (path !== undefined) {
          const { fields } = await this.workshop.run(faceTasks.describeFont, { path });
          const fresh = { ...fromStored(STORED_FACE, stored), ...fields };
          await this.faces.update({ id }, { entry: JSON.stringify(toStored(STORED_FACE, fresh)) });
          return { ...fresh, source, favourite: false };
        }
      } catch (error) {
        console.error(`The face “${id}” could not be measured again: ${error instanceof Error ? error.message : String(error)}`);
      }
    }
    return { ...fromStored(STORED_FACE, stored), source, favourite: false };
  }
}

const storedSchema = faceEntrySchema.omit({ source: true, favourite: true });

/** Faces as they are stored. Version 2 brought weight and slope from the font's tables; a face that can't be measured again is taken as a regular. */
const STORED_FACE: StoredKind<typeof storedSchema> = {
  name: 'face',
  version: 2,
  schema: storedSchema,
  upgrade: (entry) => ({ weight: 400, italic: false, slopeDeg: 0, ...entry }),
};
