import { createHash } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { type SheetFormat, endingOf } from '@jentrix/core/formats';
import { DEFAULT_STYLE, type Use } from '@jentrix/core/job';
import type { DrawingInput } from '../drawing/draw';
import { fileName, numberedName } from '../drawing/file-names';
import type { FaceLibrary } from '../faces/face-library';
import { notFound } from '../http/problem';
import type { Thumbnail } from '../http/send-file';
import type { JobsService, StoredJob } from '../jobs/jobs.service';
import type { PicturesService } from '../pictures/pictures.service';
import type { PreferencesService } from '../preferences/preferences.service';
import type { StoredPulls } from '../filing/file-with-pulls';
import type { Workshop } from '../pool/workshop';
import { FileCache } from './file-cache';
import type { ZipEntry } from '../http/send-zip';
import { drawingTasks } from '../drawing/tasks';
import { filingTasks } from '../filing/tasks';

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
  /** Only this block of each sheet. */
  block?: string | undefined;
}

/** An earlier state of a job: its document, and what that names. */
export interface EarlierState {
  document: string;
  uses: readonly Use[];
}

/** The parts of a ZIP: its name without ending, and what makes its files. */
export interface ZipParts {
  name: string;
  makers: readonly (() => Promise<ZipEntry>)[];
}

export type Materials = Omit<DrawingInput, 'out'>;

/** The side of the square that a thumbnail fits into, in pixels. */
const THUMBNAIL_SIDE = 480;

/** A thumbnail is some 20 KB: this is room for all that a shelf shows. */
const THUMBNAILS = { bytes: 128 * 1024 * 1024, files: 10_000 };

/** Where thumbnails are kept, and what tells the programs that draw them from others. */
export interface ThumbnailKeeping {
  folder: string;
  drawnBy: string;
}

/** Sheets as files, made in processes of their own. Whoever asks takes the file over and discards it. */
export class ExportsService {
  private readonly thumbnails: FileCache;

  constructor(
    private readonly workshop: Workshop,
    private readonly jobs: JobsService,
    private readonly library: FaceLibrary,
    private readonly pictures: PicturesService,
    private readonly preferences: PreferencesService,
    private readonly keeping: ThumbnailKeeping,
  ) {
    this.thumbnails = new FileCache(keeping.folder, () => workshop.spool.fresh(), THUMBNAILS);
  }

  /** The job itself as a file. @param pulls those it is to hold, where that was asked for. @throws ProblemError 413, 422 */
  async jobFile({ document, title }: StoredJob, pulls?: StoredPulls): Promise<ExportedFile> {
    return this.made(async (out) => {
      if (pulls) await this.workshop.run(filingTasks.jobFileWithPulls, { document, out, stored: pulls });
      else await this.workshop.run(filingTasks.jobFile, { document, out });
      return { name: fileName({ title, sheets: [] }) };
    });
  }

  /** @throws ProblemError 404 when the job has no such sheet; 413; 422 */
  sheet(stored: StoredJob, sheetId: string, as: WrittenAs): Promise<ExportedFile> {
    return this.sheets(stored, [sheetId], as);
  }

  /** Several sheets in one file, for formats that have pages. @throws ProblemError 404 when the job has no such sheet; 413; 422 */
  async sheets(stored: StoredJob, sheetIds: readonly string[], { format, options, block }: WrittenAs): Promise<ExportedFile> {
    const materials = await this.materials(stored.document, await this.jobs.usesOf(stored.id));
    return this.made((out) => this.workshop.run(drawingTasks.drawSheets, { ...materials, out, sheetIds, format: format.id, options, block }));
  }

  /** The pairs a job is spaced by, as a ZIP. @param fonts whether fonts with the pairs are among them. @throws ProblemError 422 */
  async pairs(stored: StoredJob, fonts: boolean): Promise<ExportedFile> {
    const materials = await this.materials(stored.document, await this.jobs.usesOf(stored.id));
    const licences = await this.library.licences(Object.keys(materials.faces));
    return this.made((out) => this.workshop.run(drawingTasks.drawPairs, { ...materials, fonts, licences, out }));
  }

  /** How a sheet comes to lie in a file, as a PNG. @param side of the square it fits into, in pixels. */
  async preview(stored: StoredJob, sheetId: string, { format, options, block }: WrittenAs, side: number): Promise<ExportedFile> {
    const materials = await this.materials(stored.document, await this.jobs.usesOf(stored.id));
    return this.made((out) => this.workshop.run(drawingTasks.drawPreview, { ...materials, out, sheetId, format: format.id, options, block, side }));
  }

  /**
   * The first sheet as a small PNG, kept for all who ask for the same document, with the same of its faces and pictures at hand.
   * @param uses what the job names; as it is stored where they are not said.
   */
  async thumbnail({ id, document }: Pick<StoredJob, 'id' | 'document'>, uses?: readonly Use[]): Promise<Thumbnail> {
    const materials = await this.materials(document, uses ?? (await this.jobs.usesOf(id)));
    const { faces, pictures } = materials;
    const of = JSON.stringify([this.keeping.drawnBy, Object.keys(faces), Object.keys(pictures)]);
    const tag = createHash('sha256').update(of).update(document).digest('base64url').slice(0, 22);
    return { tag, file: () => this.thumbnails.get(tag, (out) => this.workshop.run(drawingTasks.drawThumbnail, { ...materials, out, side: THUMBNAIL_SIDE })) };
  }

  /** The sheets that are wanted, in their order; all where none are named. @throws ProblemError 404 when the job has no such sheet */
  async wanted(stored: StoredJob, ids?: readonly string[]): Promise<string[]> {
    const { sheets } = await this.jobs.outline(stored);
    const known = sheets.map(({ id }) => id);
    if (ids?.some((id) => !known.includes(id))) throw notFound('sheet');
    return known.filter((id) => !ids || ids.includes(id));
  }

  /** Sheets as files for a ZIP. @throws ProblemError 404 when the job has no such sheet */
  async zip(stored: StoredJob, as: WrittenAs, ids?: readonly string[]): Promise<ZipParts> {
    const kind = { ending: endingOf(as.format, as.options), packed: as.format.kind !== 'text' };
    return this.parts(stored, await this.wanted(stored, ids), kind, (sheetId) => this.sheet(stored, sheetId, as));
  }

  /** Every sheet on a page to send, for a ZIP. @param before how the job was, with what that names. */
  async proofs(stored: StoredJob, before: EarlierState | undefined): Promise<ZipParts> {
    return this.parts(stored, await this.wanted(stored), { ending: ' proof.png', packed: true }, (sheetId) => this.proof(stored, sheetId, before));
  }

  private async parts(
    stored: StoredJob,
    ids: readonly string[],
    { ending, packed }: { ending: string; packed: boolean },
    make: (sheetId: string) => Promise<ExportedFile>,
  ): Promise<ZipParts> {
    const { title, sheets } = await this.jobs.outline(stored);
    const makers = sheets.flatMap((sheet, i) =>
      ids.includes(sheet.id) ? [async () => ({ path: (await make(sheet.id)).path, name: numberedName(sheet, i) + ending, packed })] : [],
    );
    return { name: fileName({ title, sheets: [] }), makers };
  }

  /** A file of its own, which is gone again where making it fails. */
  async made(make: (out: string) => Promise<{ name: string }>): Promise<ExportedFile> {
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
  async proof(stored: StoredJob, sheetId: string, before: EarlierState | undefined): Promise<ExportedFile> {
    const own: Use = { kind: 'face', id: DEFAULT_STYLE.faceId };
    const materials = await this.materials(stored.document, [...(await this.jobs.usesOf(stored.id)), ...(before?.uses ?? []), own]);
    const preferences = await this.preferences.read();
    const date = new Date().toISOString().slice(0, 10);
    return this.made((out) => this.workshop.run(drawingTasks.drawProof, { ...materials, out, sheetId, before: before?.document, preferences, date }));
  }

  /** The material to draw a job. @param uses the faces and pictures it names. */
  async materials(document: string, uses: readonly Use[]): Promise<Materials> {
    const named = (kind: string): string[] => uses.filter((use) => use.kind === kind).map((use) => use.id);
    const [faces, pictures] = await Promise.all([this.library.paths(named('face')), this.pictures.paths(named('picture'))]);
    return { document, faces, standInId: this.library.standInId, pictures };
  }
}
