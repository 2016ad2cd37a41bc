import { writeSvg, type SvgLetters } from '@jentrix/core/formats';
import { type Job, type Sheet, resolveSheet } from '@jentrix/core/job';
import { setSheet } from '@jentrix/core/setting';
import { fromPoints } from '@jentrix/core/units';
import { renderAsync } from '@resvg/resvg-js';
import { type Zippable, strToU8, zipSync } from 'fflate';
import type { FaceLibrary } from '../faces/face-library';
import { ProblemError, notFound } from '../http/problem';
import type { PicturesService } from '../pictures/pictures.service';

/** Largest picture that is rendered, in pixels: an A1 sheet at 2x. */
const MAX_PIXELS = 80_000_000;

/** Sheets as files. The PNG is made from the very SVG that is handed over. */
export class ExportsService {
  constructor(
    private readonly library: FaceLibrary,
    private readonly pictures: PicturesService,
  ) {}

  /** @throws ProblemError 404 when the job has no such sheet. */
  async svg(job: Job, sheetId: string, letters: SvgLetters): Promise<string> {
    const sheet = findSheet(job, sheetId);
    const faces = await this.library.forJob(job);
    return writeSvg(sheet, setSheet(sheet, faces), faces, { letters, pictures: await this.pictures.forJob({ ...job, sheets: [sheet] }) });
  }

  /**
   * @param scale pixels per CSS pixel (1/96 in).
   * @throws ProblemError 404 for an unknown sheet, 413 for a picture over the limit.
   */
  async png(job: Job, sheetId: string, scale: number): Promise<Buffer> {
    const sheet = findSheet(job, sheetId);
    const width = Math.max(1, Math.round(fromPoints(sheet.widthPt, 'px') * scale));
    const height = Math.max(1, Math.round(fromPoints(sheet.heightPt, 'px') * scale));
    if (width * height > MAX_PIXELS) {
      throw new ProblemError(
        413,
        'picture-too-large',
        'The picture is too large',
        `It would have ${width} × ${height} pixels. Choose a smaller scale, or hand over SVG.`,
      );
    }
    return render(await this.svg(job, sheetId, 'outlines'), width);
  }

  /**
   * Every sheet as one ZIP.
   * @param name gives a sheet's file name, without its ending.
   */
  async zip(job: Job, format: 'png' | 'svg', scale: number, name: (sheet: Sheet, index: number) => string): Promise<Uint8Array> {
    const files: Zippable = {};
    for (const [i, sheet] of job.sheets.entries()) {
      if (format === 'svg') files[`${name(sheet, i)}.svg`] = strToU8(await this.svg(job, sheet.id, 'outlines'));
      // PNG is packed already.
      else files[`${name(sheet, i)}@${scale}x.png`] = [new Uint8Array(await this.png(job, sheet.id, scale)), { level: 0 }];
    }
    return zipSync(files);
  }

  /** The first sheet as a small PNG. @param width in pixels. */
  async thumbnail(job: Job, width: number): Promise<Buffer> {
    const sheet = job.sheets[0];
    if (!sheet) throw notFound('sheet');
    const fitting = Math.max(1, Math.round(Math.min(width, (width * sheet.widthPt) / sheet.heightPt)));
    return render(await this.svg(job, sheet.id, 'outlines'), fitting);
  }
}

/** The sheet as it is set. */
function findSheet(job: Job, sheetId: string): Sheet {
  const sheet = job.sheets.find(({ id }) => id === sheetId);
  if (!sheet) throw notFound('sheet');
  return resolveSheet(job, sheet);
}

async function render(svg: string, width: number): Promise<Buffer> {
  const image = await renderAsync(svg, { fitTo: { mode: 'width', value: width }, font: { loadSystemFonts: false } });
  return image.asPng();
}
