/** `jentrix export`: sheets as files, from the same drawing as the server's. */
import { writeFileSync } from 'node:fs';
import { extname } from 'node:path';
import { drawSheet, onlyBlock } from '@jentrix/core/drawing';
import { SHEET_FORMATS, type SheetMaterial, documentInfo, optionsOf, packageFormat } from '@jentrix/core/formats';
import { describeIssues, resolveSheet } from '@jentrix/core/job';
import { setSheet } from '@jentrix/core/setting';
import { type Command, blockIn, jobIn, numberOf } from '../command';
import { OPTIONS, type OptionName } from '../options';
import { facesForJob } from '../fonts';
import { packageOf } from '../packages';
import { picturesBeside, picturesOf } from '../pictures';
import { UsageError } from '../usage-error';

/** The formats as the command names them: those with live text by a name of their own. */
const kinds = (): Readonly<Record<string, { id: string; options: Readonly<Record<string, string>> }>> => ({
  ...Object.fromEntries(SHEET_FORMATS.map(({ id }) => [id, { id, options: {} }])),
  'svg-text': { id: 'svg', options: { letters: 'text' } },
});

/** All options of the formats, as the command has them: a spec fails where one is missing among its options. */
const FORMAT_OPTIONS = [...new Set(SHEET_FORMATS.flatMap(optionsOf))].filter((name): name is OptionName => name in OPTIONS);

/** An option as usage shows it. */
const written = (name: OptionName): string => {
  const { value }: { says: string; value?: string } = OPTIONS[name];
  return value === undefined ? `[--${name}]` : `[--${name} ${value}]`;
};

/** The file of one sheet of several: the number goes before the ending. */
function numbered(path: string, index: number): string {
  const ending = extname(path);
  return `${path.slice(0, path.length - ending.length)}-${String(index + 1).padStart(2, '0')}${ending}`;
}

export const exportSheets: Command = {
  name: 'export',
  usage: [
    `JOB.json -o OUT [--format ${[...Object.keys(kinds()), packageFormat.id].join('|')}] [--sheet N|all | --block ID] ${FORMAT_OPTIONS.map(written).join(' ')} [--faces DIR] [--pictures DIR]`,
  ],
  says:
    'Writes sheets. PNG, JPEG and WebP state sRGB and their physical size; in SVG and PDF the letters are outlines or text. With --sheet all every sheet has a file, numbered before the ending, or ' +
    'a page where the format has pages. A picture is taken from the file that is named as the job names it, in a folder “pictures” beside the job unless another is said. A package holds the job with its pulls, its pictures, the faces that may be passed on, and the recipes in a “recipes.json” beside it.',
  example: 'poster.jentrix.json -o poster.pdf --format pdf --sheet all --bleed 3 --marks',
  options: ['output', 'format', 'sheet', 'block', ...FORMAT_OPTIONS, 'faces', 'pictures'],
  async run(values, files, { out, error }) {
    if (values.output === undefined) throw new UsageError('-o OUT is needed.');
    if (values.format === packageFormat.id) {
      const [jobFile] = files;
      if (jobFile === undefined || files.length > 1) throw new UsageError('One job file is needed.');
      const { bytes, notes } = await packageOf(jobFile, values.faces, values.pictures);
      for (const note of notes) error(`jentrix: ${note}\n`);
      writeFileSync(values.output, bytes);
      out(`A package of ${Math.ceil(bytes.length / 1024)} KB, written to ${values.output}\n`);
      return 0;
    }
    const kind = kinds()[values.format];
    const format = SHEET_FORMATS.find(({ id }) => id === kind?.id);
    if (!kind || !format) throw new UsageError(`--format takes ${[...Object.keys(kinds()), packageFormat.id].join(', ')}, not “${values.format}”.`);
    const options = format.options.safeParse({ ...Object.fromEntries(optionsOf(format).map((name) => [name, values[name as OptionName]])), ...kind.options });
    if (!options.success) throw new UsageError(describeIssues(options.error).replace(/^(\w+): /, '--$1: '));
    const job = jobIn(files);
    const block = values.block === undefined ? undefined : blockIn(job, values.block);
    const wanted = block
      ? [job.sheets.findIndex(({ id }) => id === block.sheet.id)]
      : values.sheet === 'all'
        ? job.sheets.map((_, i) => i)
        : [numberOf('sheet', values.sheet, 1, job.sheets.length) - 1];
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is missing; a substitute is used.\n`);
    const folder = values.pictures ?? picturesBeside(files[0] ?? '');
    const sheets = wanted.map((index): { index: number; material: SheetMaterial } => {
      const raw = job.sheets[index];
      if (!raw) throw new UsageError('--sheet takes a whole number, or all.');
      const sheet = resolveSheet(job, raw);
      const pictures = picturesOf(sheet, folder);
      if (sheet.background.kind === 'picture' && pictures.size === 0)
        error(`jentrix: the picture “${sheet.background.pictureId}” is missing; it is left out.\n`);
      const whole = drawSheet(sheet, setSheet(sheet, faces));
      const drawing = values.block === undefined ? whole : onlyBlock(whole, values.block, faces);
      if (!drawing) throw new UsageError(`There is no block “${values.block ?? ''}” on the sheet, or nothing of it is seen.`);
      return { index, material: { drawing, faces, pictures } };
    });
    // Writers are loaded by those who need them.
    const { writeSheets } = await import('@jentrix/core/rendering');
    const info = documentInfo(job);
    const [first, ...more] = sheets.map(({ material }) => material);
    if (format.kind === 'pages' && first) {
      writeFileSync(values.output, await writeSheets(format, [first, ...more], info, options.data));
      out(`${sheets.length === 1 ? 'One page' : `${sheets.length} pages`}, written to ${values.output}\n`);
      return 0;
    }
    for (const { index, material } of sheets) {
      const path = values.sheet === 'all' ? numbered(values.output, index) : values.output;
      writeFileSync(path, await writeSheets(format, [material], info, options.data));
      const pixels = format.kind === 'pixels' ? format.pixels(material.drawing, options.data) : undefined;
      out(`“${material.drawing.name}”${pixels ? `, ${pixels.width} × ${pixels.height} pixels` : ''}, written to ${path}\n`);
    }
    return 0;
  },
};
