import { writeFileSync } from 'node:fs';
import { checkJob, refineJob } from '../../findings';
import { writeJobFile } from '../../formats';
import { type Command, jobIn, numberOf } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

export const refine: Command = {
  name: 'refine',
  usage: ['JOB.json -o OUT.json [--strength S] [--faces DIR]'],
  says: 'Writes the job with all its words kerned by shape; hand kerning stays on top.',
  options: ['output', 'strength', 'faces'],
  async run(values, files, { out, error }) {
    if (values.output === undefined) throw new UsageError('-o OUT.json is needed.');
    const job = jobIn(files);
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is not here; its words are left as they are.\n`);
    const refined = refineJob(job, numberOf('strength', values.strength, 0, 2), (id) => faces.has(id));
    writeFileSync(values.output, writeJobFile(refined));
    const [before, after] = [job, refined].map((one) => checkJob(one, faces).evenness);
    const print = (value: number | undefined): string => (value === undefined ? '-' : value.toFixed(0));
    out(`Kerned by shape: evenness ${print(before)} to ${print(after)}, written to ${values.output}\n`);
    return 0;
  },
};
