/** `jentrix export`: sheets as files, from the same drawing as the server's. */
import { writeFileSync } from 'node:fs';
import { extname } from 'node:path';
import { drawSheet } from '../../drawing';
import { MAX_PIXELS, SHEET_FORMATS, type SheetMaterial } from '../../formats';
import { resolveSheet } from '../../job';
import { setSheet } from '../../setting';
import { type Command, jobIn, numberOf } from '../command';
import { facesForJob } from '../fonts';
import { picturesBeside, picturesOf } from '../pictures';
import { UsageError } from '../usage-error';

/** The formats as the command names them: those with live text by a name of their own. */
const KINDS: Readonly<Record<string, { id: string; options: Readonly<Record<string, string>> }>> = {
  svg: { id: 'svg', options: { letters: 'outlines' } },
  'svg-text': { id: 'svg', options: { letters: 'text' } },
  png: { id: 'png', options: {} },
};

/** The file of one sheet of several: the number goes before the ending. */
function numbered(path: string, index: number): string {
  const ending = extname(path);
  return `${path.slice(0, path.length - ending.length)}-${String(index + 1).padStart(2, '0')}${ending}`;
}

export const exportSheets: Command = {
  name: 'export',
  usage: ['JOB.json -o OUT [--format svg|svg-text|png] [--sheet N|all] [--scale S] [--faces DIR] [--pictures DIR]'],
  says:
    'Writes sheets as they are set: SVG with the letters as outlines or as text, or PNG. With --sheet all every sheet has a file, numbered before the ending. A picture ' +
    'is taken from the file that is named as the job names it, in a folder “pictures” beside the job unless another is said.',
  options: ['output', 'format', 'sheet', 'scale', 'faces', 'pictures'],
  async run(values, files, { out, error }) {
    if (values.output === undefined) throw new UsageError('-o OUT is needed.');
    const kind = KINDS[values.format];
    const format = SHEET_FORMATS.find(({ id }) => id === kind?.id);
    if (!kind || !format) throw new UsageError(`--format takes ${Object.keys(KINDS).join(', ')}, not “${values.format}”.`);
    const options = format.options.safeParse({ ...kind.options, scale: values.scale });
    if (!options.success) throw new UsageError('--scale takes 1, 2 or 3.');
    const job = jobIn(files);
    const wanted = values.sheet === 'all' ? job.sheets.map((_, i) => i) : [numberOf('sheet', values.sheet, 1, job.sheets.length) - 1];
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is not here; another stands in for it.\n`);
    const folder = values.pictures ?? picturesBeside(files[0] ?? '');
    for (const index of wanted) {
      const raw = job.sheets[index];
      if (!raw) throw new UsageError('--sheet takes a whole number, or all.');
      const sheet = resolveSheet(job, raw);
      const pictures = picturesOf(sheet, folder);
      if (sheet.background.kind === 'picture' && pictures.size === 0)
        error(`jentrix: the picture “${sheet.background.pictureId}” is not here; it is left out.\n`);
      const material: SheetMaterial = { drawing: drawSheet(sheet, setSheet(sheet, faces)), faces, pictures };
      const path = values.sheet === 'all' ? numbered(values.output, index) : values.output;
      let size = '';
      if (format.kind === 'text') writeFileSync(path, format.write(material, options.data));
      else {
        const pixels = format.pixels(sheet, options.data);
        if (pixels.width * pixels.height > MAX_PIXELS)
          throw new UsageError(`It would have ${pixels.width} × ${pixels.height} pixels: choose a smaller scale, or SVG.`);
        // The renderer is loaded by those who need it.
        const { renderSheet } = await import('../../rendering');
        writeFileSync(path, renderSheet(material, format.id, pixels));
        size = `, ${pixels.width} × ${pixels.height} pixels`;
      }
      out(`“${sheet.name}”${size}, written to ${path}\n`);
    }
    return 0;
  },
};
