import { writeFileSync } from 'node:fs';
import { drawSheet } from '@jentrix/core/drawing';
import { SHEET_FORMATS, type TextFormat, documentInfo } from '@jentrix/core/formats';
import { resolveSheet } from '@jentrix/core/job';
import { setSheet } from '@jentrix/core/setting';
import { type Command, jobIn, numberOf } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

const FORMATS = SHEET_FORMATS.filter((format): format is TextFormat => format.kind === 'text');

export const draw: Command = {
  name: 'draw',
  usage: ['JOB.json -o OUT.svg [--sheet N] [--format NAME] [--letters outlines|text] [--faces DIR]'],
  says: `Writes a sheet in a text format: ${FORMATS.map(({ id }) => id).join(', ')}. Pictures are left out.`,
  example: 'poster.jentrix.json -o poster.svg',
  options: ['output', 'sheet', 'format', 'letters', 'faces'],
  async run(values, files, { out, error }) {
    if (values.output === undefined) throw new UsageError('-o FILE is needed.');
    const format = FORMATS.find(({ id }) => id === values.format);
    if (!format) throw new UsageError(`--format takes ${FORMATS.map(({ id }) => id).join(', ')}, not “${values.format}”.`);
    const options = format.options.safeParse(values);
    if (!options.success) throw new UsageError(`--${String(options.error.issues[0]?.path[0])}: ${options.error.issues[0]?.message ?? ''}`);
    const job = jobIn(files);
    const raw = job.sheets[numberOf('sheet', values.sheet, 1, job.sheets.length) - 1];
    if (!raw) throw new UsageError('--sheet takes a whole number.');
    const sheet = resolveSheet(job, raw);
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is missing; a substitute is used.\n`);
    const settings = setSheet(sheet, faces);
    writeFileSync(values.output, format.write({ drawing: drawSheet(sheet, settings), faces, pictures: new Map() }, options.data, documentInfo(job)));
    const lines = settings.reduce((sum, setting) => sum + setting.lines.length, 0);
    out(`“${sheet.name}”, ${settings.length} blocks in ${lines} lines, written to ${values.output}\n`);
    return 0;
  },
};
