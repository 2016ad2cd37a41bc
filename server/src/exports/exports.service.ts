import { createHash } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { type SheetFormat, endingOf } from '@jentrix/core/formats';
import { DEFAULT_STYLE, type Use } from '@jentrix/core/job';
import type { DrawingInput } from '../drawing/draw';
import { fileName, numberedName } from '../drawing/file-names';
import type { FaceLibrary } from '../faces/face-library';
import type { JobsService, StoredJob } from '../jobs/jobs.service';
import type { PicturesService } from '../pictures/pictures.service';
import type { PreferencesService } from '../preferences/preferences.service';
import type { StoredPulls } from '../pulls/file-with-pulls';
import type { Workshop } from '../pool/workshop';
import { FileCache } from './file-cache';

/** A file made from a job. */
export interface ExportedFile {
  path: string;
  /** Name without its ending. */
  name: string;
}

/** A format with its options, checked by its schema. */
export interface WrittenAs {
  format: SheetFormat;
  options: unknown;
}

/** An earlier state of a job: its document, and what that names. */
export interface Kept {
  document: string;
  uses: readonly Use[];
}

export type Materials = Omit<DrawingInput, 'out'>;

/** The side of the square that a thumbnail fits into, in pixels. */
const THUMBNAIL_SIDE = 480;

/** A small picture: what tells it from another, and its file, which stays whose it is. */
export interface Thumbnail {
  tag: string;
  file: () => Promise<string>;
}

/** A thumbnail is some 20 KB: this is room for all that a shelf shows. */
const THUMBNAILS = { bytes: 128 * 1024 * 1024, files: 10_000 };

/** Sheets as files, made in processes of their own. Whoever asks takes the file over and discards it. */
export class ExportsService {
  private readonly thumbnails: FileCache;

  constructor(
    private readonly workshop: Workshop,
    private readonly jobs: JobsService,
    private readonly library: FaceLibrary,
    private readonly pictures: PicturesService,
    private readonly preferences: PreferencesService,
  ) {
    this.thumbnails = new FileCache(() => workshop.spool.fresh(), THUMBNAILS);
  }

  /** The job itself as a file. @param pulls those it is to hold, where that was asked for. @throws ProblemError 413, 422 */
  async jobFile({ document, title }: StoredJob, pulls?: StoredPulls): Promise<ExportedFile> {
    return this.made(async (out) => {
      if (pulls) await this.workshop.reading.run('jobFileWithPulls', { document, out, stored: pulls });
      else await this.workshop.reading.run('jobFile', { document, out });
      return { name: fileName({ title, sheets: [] }) };
    });
  }

  /** @throws ProblemError 404 when the job has no such sheet; 413; 422 */
  async sheet(stored: StoredJob, sheetId: string, { format, options }: WrittenAs): Promise<ExportedFile> {
    const materials = await this.materials(stored.document, await this.jobs.usesOf(stored.id));
    return this.made((out) => this.workshop.drawing.run('drawSheet', { ...materials, out, sheetId, format: format.id, options }));
  }

  /**
   * The first sheet as a small PNG, kept until its job or a face of it changes.
   * @param uses what the job names; as it is stored where they are not said.
   */
  async thumbnail({ id, revision, document }: StoredJob, uses?: readonly Use[]): Promise<Thumbnail> {
    const materials = await this.materials(document, uses ?? (await this.jobs.usesOf(id)));
    const { faces, pictures } = materials;
    const key = JSON.stringify([id, revision, faces, pictures]);
    const tag = createHash('sha256').update(key).digest('base64url').slice(0, 22);
    return { tag, file: () => this.thumbnails.get(tag, (out) => this.workshop.thumbnails.run('drawThumbnail', { ...materials, out, side: THUMBNAIL_SIDE })) };
  }

  /**
   * Every sheet as one ZIP.
   * @param isWanted tells whether somebody still waits for it.
   */
  zip(stored: StoredJob, as: WrittenAs, isWanted: () => boolean): Promise<ExportedFile> {
    const kind = { ending: endingOf(as.format, as.options), packed: as.format.kind === 'pixels' };
    return this.packed(stored, kind, (sheetId) => this.sheet(stored, sheetId, as), isWanted);
  }

  /** Every sheet on a page to send, as one ZIP. @param before how the job was, with what that names. */
  proofs(stored: StoredJob, before: Kept | undefined, isWanted: () => boolean): Promise<ExportedFile> {
    return this.packed(stored, { ending: ' proof.png', packed: true }, (sheetId) => this.proof(stored, sheetId, before), isWanted);
  }

  /** A file of every sheet in one ZIP. @param kind of the files; those that are packed already go in as they are. */
  private async packed(
    stored: StoredJob,
    { ending, packed }: { ending: string; packed: boolean },
    make: (sheetId: string) => Promise<ExportedFile>,
    isWanted: () => boolean,
  ): Promise<ExportedFile> {
    const { title, sheets } = await this.jobs.outline(stored);
    const files: { name: string; path: string; packed: boolean }[] = [];
    try {
      for (const [i, sheet] of sheets.entries()) {
        if (!isWanted()) break;
        const { path } = await make(sheet.id);
        files.push({ path, name: numberedName(sheet, i) + ending, packed });
      }
      return await this.made(async (out) => {
        await this.workshop.drawing.run('pack', { files, out });
        return { name: fileName({ title, sheets: [] }) };
      });
    } finally {
      await this.workshop.spool.discard(...files.map(({ path }) => path));
    }
  }

  private async made(make: (out: string) => Promise<{ name: string }>): Promise<ExportedFile> {
    const path = this.workshop.spool.fresh();
    try {
      return { path, ...(await make(path)) };
    } catch (error) {
      await rm(path, { force: true });
      throw error;
    }
  }

  /**
   * A sheet on a page to send. @param before how it was, with what that names.
   * @throws ProblemError 404 when the job has no such sheet; 422
   */
  async proof(stored: StoredJob, sheetId: string, before: Kept | undefined): Promise<ExportedFile> {
    const own: Use = { kind: 'face', id: DEFAULT_STYLE.faceId };
    const materials = await this.materials(stored.document, [...(await this.jobs.usesOf(stored.id)), ...(before?.uses ?? []), own]);
    const preferences = await this.preferences.read();
    const date = new Date().toISOString().slice(0, 10);
    return this.made((out) => this.workshop.drawing.run('drawProof', { ...materials, out, sheetId, before: before?.document, preferences, date }));
  }

  /** What drawing a job takes. @param uses the faces and pictures it names. */
  async materials(document: string, uses: readonly Use[]): Promise<Materials> {
    const named = (kind: string): string[] => uses.filter((use) => use.kind === kind).map((use) => use.id);
    const [faces, pictures] = await Promise.all([this.library.paths(named('face')), this.pictures.paths(named('picture'))]);
    return { document, faces, standInId: this.library.standInId, pictures };
  }
}
