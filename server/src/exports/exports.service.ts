import { rm } from 'node:fs/promises';
import type { SvgLetters } from '@jentrix/core/formats';
import type { DrawingInput } from '../drawing/draw';
import { fileName, numberedName } from '../drawing/file-names';
import type { FaceLibrary } from '../faces/face-library';
import type { JobsService, StoredJob } from '../jobs/jobs.service';
import type { PicturesService } from '../pictures/pictures.service';
import type { Workshop } from '../pool/workshop';

/** A file made from a job. */
export interface ExportedFile {
  path: string;
  /** Name without its ending. */
  name: string;
}

type Materials = Omit<DrawingInput, 'out'>;

/** Sheets as files, made in processes of their own. Whoever asks takes the file over and discards it. */
export class ExportsService {
  constructor(
    private readonly workshop: Workshop,
    private readonly jobs: JobsService,
    private readonly library: FaceLibrary,
    private readonly pictures: PicturesService,
  ) {}

  /** The job itself as a file. @throws ProblemError 422 */
  async jobFile({ document, title }: StoredJob): Promise<ExportedFile> {
    return this.made(async (out) => {
      await this.workshop.reading.run('jobFile', { document, out });
      return { name: fileName({ title, sheets: [] }) };
    });
  }

  /** @throws ProblemError 404 when the job has no such sheet; 413; 422 */
  async svg(stored: StoredJob, sheetId: string, letters: SvgLetters): Promise<ExportedFile> {
    const materials = await this.materials(stored);
    return this.made((out) => this.workshop.drawing.run('drawSvg', { ...materials, out, sheetId, letters }));
  }

  /** @param scale pixels per CSS pixel (1/96 in). @throws ProblemError 404, 413, 422 */
  async png(stored: StoredJob, sheetId: string, scale: number): Promise<ExportedFile> {
    const materials = await this.materials(stored);
    return this.made((out) => this.workshop.drawing.run('drawPng', { ...materials, out, sheetId, scale }));
  }

  /** The first sheet as a small PNG. @param side of the square it fits into, in pixels. */
  async thumbnail(stored: StoredJob, side: number): Promise<ExportedFile> {
    const materials = await this.materials(stored);
    return this.made(async (out) => {
      await this.workshop.thumbnails.run('drawThumbnail', { ...materials, out, side });
      return { name: 'thumbnail' };
    });
  }

  /**
   * Every sheet as one ZIP.
   * @param isWanted tells whether somebody still waits for it.
   */
  async zip(stored: StoredJob, format: 'png' | 'svg', scale: number, isWanted: () => boolean): Promise<ExportedFile> {
    const { title, sheets } = await this.jobs.outline(stored);
    const files: { name: string; path: string; packed: boolean }[] = [];
    try {
      for (const [i, sheet] of sheets.entries()) {
        if (!isWanted()) break;
        const { path } = format === 'svg' ? await this.svg(stored, sheet.id, 'outlines') : await this.png(stored, sheet.id, scale);
        files.push({ path, name: numberedName(sheet, i) + (format === 'svg' ? '.svg' : `@${scale}x.png`), packed: format === 'png' });
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

  private async materials({ id, document }: StoredJob): Promise<Materials> {
    const uses = await this.jobs.usesOf(id);
    const named = (kind: string): string[] => uses.filter((use) => use.kind === kind).map((use) => use.id);
    const [faces, pictures] = await Promise.all([this.library.paths(named('face')), this.pictures.paths(named('picture'))]);
    return { document, faces, standInId: this.library.standInId, pictures };
  }
}
