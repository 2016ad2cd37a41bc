import { writeFileSync } from 'node:fs';
import { writeJobFile } from '../../formats';
import { type Measure, STEPS, firstCut } from '../../refine';
import { type Command, jobIn, numberOf } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

const KNOWN = STEPS.map(({ id }) => id);

/** @throws UsageError */
function stepsIn(list: string): string[] {
  const steps = list.split(',').map((step) => step.trim());
  const unknown = steps.find((step) => !KNOWN.includes(step));
  if (unknown !== undefined) throw new UsageError(`“${unknown}” is no step; there are ${KNOWN.join(', ')}.`);
  return steps;
}

const printed = ({ evenness, findings }: Measure): string => `evenness ${evenness?.toFixed(0) ?? '-'}, ${findings} ${findings === 1 ? 'finding' : 'findings'}`;
const plain = ({ evenness, findings }: Measure): { evenness: number | null; findings: number } => ({ evenness: evenness ?? null, findings });

export const refine: Command = {
  name: 'refine',
  usage: ['JOB.json -o OUT.json [--steps LIST] [--strength S] [--report FILE] [--faces DIR]'],
  says: 'Writes the job with its words kerned by shape, or with any of the steps of the first cut carried out; hand kerning stays on top. What would be worse for it is left as it is.',
  options: ['output', 'steps', 'strength', 'report', 'faces'],
  async run(values, files, { out, error }) {
    if (values.output === undefined) throw new UsageError('-o OUT.json is needed.');
    const steps = stepsIn(values.steps);
    const kerningStrength = numberOf('strength', values.strength, 0, 2);
    const job = jobIn(files);
    const { faces, missing } = await facesForJob(job, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is not here; its words are left as they are.\n`);
    const cut = firstCut(job, faces, { steps, kerningStrength });
    writeFileSync(values.output, writeJobFile(cut.job));
    for (const { name, items, after } of cut.steps) {
      out(`${name}: ${printed(after)}\n`);
      for (const { sheet, words, what, from, to, places } of items) {
        const change = to === '' ? `${places} ${places === 1 ? 'place' : 'places'} mended` : `${from} to ${to}`;
        out(`  ${sheet}: ${what}, ${change}, in “${words}”\n`);
      }
    }
    out(`${printed(cut.before)} before, ${printed(cut.after)} after, written to ${values.output}\n`);
    if (values.report !== undefined) {
      const report = {
        before: plain(cut.before),
        after: plain(cut.after),
        steps: cut.steps.map(({ id, before, after, items }) => ({
          step: id,
          before: plain(before),
          after: plain(after),
          items: items.map(({ sheet, blockId, words, what, from, to, places }) => ({ sheet, block: blockId, words, what, from, to, places })),
        })),
      };
      writeFileSync(values.report, `${JSON.stringify(report, null, 2)}\n`);
    }
    return 0;
  },
};
