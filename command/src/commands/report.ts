/** `jentrix report`: a job told in words and numbers. */
import { writeFileSync } from 'node:fs';
import { JUDGING } from '@jentrix/core/findings';
import { reportOn, sayReport } from '@jentrix/core/report';
import { type Command, jobAt, tasteIn } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

export const report: Command = {
  name: 'report',
  usage: ['JOB.json … [-o FILE] [--json] [--taste FILE] [--faces DIR]'],
  says: 'Reports on jobs: every line with its width, every block with its spec line, evenness and findings, the faces and all findings. Markdown, or JSON: an object for one job, a list for several.',
  example: 'poster.jentrix.json -o poster.md',
  options: ['output', 'json', 'taste', 'faces'],
  async run(values, files, { out, error }) {
    if (files.length === 0) throw new UsageError('A job file is needed.');
    const taste = tasteIn(values.taste) ?? JUDGING.taste;
    const reports = [];
    for (const path of files) {
      const job = jobAt(path);
      const { faces, missing } = await facesForJob(job, values.faces);
      for (const id of missing) error(`jentrix: the face “${id}” is missing; its words are not checked.\n`);
      reports.push(reportOn(job, faces, { judge: { ...JUDGING, taste } }));
    }
    const text = values.json ? `${JSON.stringify(reports.length === 1 ? reports[0] : reports, null, 2)}\n` : reports.map(sayReport).join('\n');
    if (values.output === undefined) out(text);
    else {
      writeFileSync(values.output, text);
      out(`Written to ${values.output}\n`);
    }
    return 0;
  },
};
