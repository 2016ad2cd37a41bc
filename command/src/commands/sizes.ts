/** `jentrix sizes`: one design in several sizes that share words and recipes. */
import { randomUUID } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { SHEET_PRESETS, type SheetPreset } from '@jentrix/core/job';
import { inOtherSizes } from '@jentrix/core/sizes';
import { type Command, jobIn, numberOf } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

export const sizes: Command = {
  name: 'sizes',
  usage: ['JOB.json --in LIST -o OUT.json [--sheet N] [--faces DIR]'],
  says:
    'The design of a sheet in other sizes, each a sheet of its own behind it: they share words and recipes, and the words of each are as large as its room allows. ' +
    `Sizes by name: ${SHEET_PRESETS.map(({ name }) => name).join(', ')}.`,
  example: 'poster.jentrix.json --in "Square 1:1,Tall 9:16" -o campaign.jentrix.json',
  options: ['in', 'output', 'sheet', 'faces'],
  async run(values, files, { out, error }) {
    if (values.output === undefined) throw new UsageError('-o OUT.json is needed.');
    const job = jobIn(files);
    const sheet = job.sheets[Math.round(numberOf('sheet', values.sheet, 1, job.sheets.length)) - 1];
    if (!sheet) throw new UsageError(`There is no sheet ${values.sheet}.`);
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`The face “${id}” is missing; a substitute is used.\n`);
    const made = inOtherSizes(job, sheet.id, presetsOf(values.in), faces, randomUUID);
    writeFileSync(values.output, writeJobFile(made.job));
    out(`${made.sheetIds.length} ${made.sheetIds.length === 1 ? 'sheet' : 'sheets'} more, written to ${values.output}\n`);
    return 0;
  },
};

/** @throws UsageError */
function presetsOf(list: string | undefined): SheetPreset[] {
  const names = (list ?? '').split(',').map((name) => name.trim());
  return names.map((name) => {
    const preset = SHEET_PRESETS.find((one) => one.name.toLowerCase() === name.toLowerCase());
    if (!preset) throw new UsageError(`--in takes sizes by name, of ${SHEET_PRESETS.map((one) => one.name).join(', ')}; not “${name}”.`);
    return preset;
  });
}
