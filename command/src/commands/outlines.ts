/** `jentrix outlines`: chosen letters as SVG path data. */
import { writeFileSync } from 'node:fs';
import { letterOutlines } from '@jentrix/core/formats';
import { type Job, resolveSheet } from '@jentrix/core/job';
import { setBlock } from '@jentrix/core/setting';
import { type Command, blockIn, jobIn, rangesIn } from '../command';
import { facesForJob } from '../fonts';

export const outlines: Command = {
  name: 'outlines',
  usage: ['JOB.json [--block ID] [--range LIST] [--faces DIR] [-o OUT]'],
  says: 'Prints the outlines of letters as SVG path data, in points from the top left of their sheet. The job stays as it is.',
  example: 'poster.jentrix.json --range 0-3 -o letters.svg',
  options: ['block', 'range', 'faces', 'output'],
  async run(values, files, { out, error }) {
    const job: Job = jobIn(files);
    const { sheet, block } = blockIn(job, values.block);
    const ranges = rangesIn(values.range, block.words.length);
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is missing; a substitute is used.\n`);
    const shown = resolveSheet(job, sheet).blocks.find(({ id }) => id === block.id) ?? block;
    const data = `${letterOutlines(shown, setBlock(shown, faces), ranges, faces)}\n`;
    if (values.output === undefined) out(data);
    else writeFileSync(values.output, data);
    return 0;
  },
};
