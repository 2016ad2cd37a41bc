/** `jentrix pairs`: the pairs a job is spaced by, for use elsewhere. */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fontFiles, pairFiles, pairsOfJob } from '@jentrix/core/pairs';
import { type Command, jobIn } from '../command';
import { facePaths, facesForJob, glyphText } from '../fonts';
import { UsageError } from '../usage-error';

export const pairs: Command = {
  name: 'pairs',
  usage: ['JOB.json --out DIR [--name NAME] [--faces DIR]'],
  says:
    'Writes the pairs of letters that the job is spaced by: all as CSV and as JSON, and for every face OpenType feature code that a font compiler takes. ' +
    'With --name also the fonts themselves with these pairs in them, under that name, where their licences are known to allow it.',
  example: 'poster.jentrix.json --out pairs --name "Harbour Lamp"',
  options: ['out', 'name', 'faces'],
  async run(values, files, { out, error }) {
    if (values.out === undefined) throw new UsageError('--out DIR is needed.');
    const job = jobIn(files);
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is missing; its pairs are left out.\n`);
    const found = pairsOfJob(job, faces);
    mkdirSync(values.out, { recursive: true });
    for (const [name, content] of Object.entries(pairFiles(found))) writeFileSync(join(values.out, name), content);
    for (const { faceId, pairs: own } of found)
      out(`${faceId}: ${own.length} pairs, ${own.filter(({ others }) => others > 0).length} of them with several values\n`);
    if (values.name !== undefined) {
      if (values.name.trim() === '') throw new UsageError('--name takes a name.');
      const paths = facePaths(values.faces);
      const licenceOf = (id: string): string | undefined => {
        const path = paths.get(id)?.licence;
        return path !== undefined && existsSync(path) ? glyphText(path) : undefined;
      };
      const { files: fonts, notes } = await fontFiles(found, faces, { name: values.name.trim(), licenceOf });
      for (const note of notes) error(`jentrix: ${note}\n`);
      if (Object.keys(fonts).length > 0) mkdirSync(join(values.out, 'fonts'), { recursive: true });
      for (const [name, bytes] of Object.entries(fonts)) writeFileSync(join(values.out, name), bytes);
      out(`${Object.keys(fonts).filter((name) => /\.[ot]tf$/.test(name)).length} fonts\n`);
    }
    out(`Written to ${values.out}\n`);
    return 0;
  },
};
