import { JUDGING, checkJob } from '@jentrix/core/findings';
import { type Command, jobIn, tasteIn } from '../command';
import { facesForJob } from '../fonts';

export const check: Command = {
  name: 'check',
  usage: ['JOB.json [--json] [--taste FILE] [--faces DIR]'],
  says: 'Prints the findings of a job, most visible first. Exit status 1 where one is severe.',
  example: 'poster.jentrix.json',
  options: ['json', 'taste', 'faces'],
  async run(values, files, { out, error }) {
    const job = jobIn(files);
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is missing; its words are not checked.\n`);
    const { findings, evenness } = checkJob(job, faces, { judge: { ...JUDGING, taste: tasteIn(values.taste) ?? JUDGING.taste } });
    if (values.json) out(`${JSON.stringify({ evenness: evenness ?? null, findings }, null, 2)}\n`);
    else {
      for (const { sheet, severity, subject, message, words } of findings) {
        const where = [sheet && `${sheet}: `, words && ` in “${words}”`];
        out(`${severity.padEnd(7)} ${where[0] ?? ''}${subject} ${message}${where[1] ?? ''}\n`);
      }
      out(`${findings.length} findings, evenness ${evenness?.toFixed(0) ?? '-'}\n`);
    }
    return findings.some(({ severity }) => severity === 'severe') ? 1 : 0;
  },
};
