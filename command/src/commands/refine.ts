/** `jentrix refine`: jobs and SVGs spaced by measure, one or many. */
import { statSync, writeFileSync } from 'node:fs';
import { type FirstCut, KERNING_SOURCES, type CutMeasure } from '@jentrix/core/refine';
import { plainMeasure, refineFile, stepsIn } from '../bulk/refine-file';
import { type Outcome, refineMany } from '../bulk/refine-many';
import { type Command, type Output, numberOf, oneOf } from '../command';
import { UsageError } from '../usage-error';

const shown = (evenness: number | null | undefined): string => evenness?.toFixed(0) ?? '-';
const countOf = (findings: number): string => `${findings} ${findings === 1 ? 'finding' : 'findings'}`;
const printed = ({ evenness, findings }: CutMeasure): string => `evenness ${shown(evenness)}, ${countOf(findings)}`;

const isFolder = (path: string): boolean => statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false;

export const refine: Command = {
  name: 'refine',
  usage: [
    'FILE -o OUT [--steps LIST] [--kerning SOURCE] [--strength S] [--report FILE] [--faces DIR]',
    'FILES AND FOLDERS --out DIR [--jobs N] [--steps LIST] [--kerning SOURCE] [--strength S] [--report FILE] [--faces DIR]',
  ],
  says:
    'Writes a job with its words kerned as font and shapes have it together, or with any of the steps of the first cut carried out; manual kerning stays on top. What would be worse for it is left as it is. In an SVG only the places of letters in text elements are ' +
    'written (tracking, kerning, edges), gaps it spaces manually keep their white, and every other byte stays. Of many files each is written under its name into another folder; what was refined before in the same way is not refined again, and one that fails stops none.',
  example: 'posters --out refined --jobs 2 --steps tracking,kerning --report report.json',
  options: ['output', 'out', 'jobs', 'steps', 'kerning', 'strength', 'report', 'faces'],
  async run(values, files, output) {
    const kerning = oneOf('kerning', values.kerning, KERNING_SOURCES);
    const options = { steps: stepsIn(values.steps), kerning, strength: numberOf('strength', values.strength, 0, 2), facesFolder: values.faces };
    const [path, more] = files;
    if (path === undefined) throw new UsageError('A file is needed.');
    if (values.out !== undefined) {
      if (values.output !== undefined) throw new UsageError('Either -o OUT for one file, or --out DIR.');
      return many(files, values.out, { options, jobs: numberOf('jobs', values.jobs, 1, 64), report: values.report }, output);
    }
    if (more !== undefined || isFolder(path)) throw new UsageError('--out DIR is needed for several files.');
    if (values.output === undefined) throw new UsageError('-o OUT is needed.');
    const { content, cut, notes } = await refineFile(path, options);
    for (const note of notes) output.error(`${note}.\n`);
    writeFileSync(values.output, content);
    tell(cut, output);
    output.out(`${printed(cut.before)} before, ${printed(cut.after)} after, written to ${values.output}\n`);
    if (values.report !== undefined) writeFileSync(values.report, `${JSON.stringify(reportOf(cut), null, 2)}\n`);
    return 0;
  },
};

function tell({ steps }: FirstCut, { out }: Output): void {
  for (const { name, items, after } of steps) {
    out(`${name}: ${printed(after)}\n`);
    for (const { sheet, words, what, from, to, places, kept } of items) {
      if (!kept) {
        out(`  ${sheet}: ${what} was reverted and stays so, in “${words}”\n`);
        continue;
      }
      const change = to === '' ? `${places} ${places === 1 ? 'place' : 'places'} fixed` : `${from} to ${to}`;
      out(`  ${sheet}: ${what}, ${change}, in “${words}”\n`);
    }
  }
}

const reportOf = (cut: FirstCut): object => ({
  before: plainMeasure(cut.before),
  after: plainMeasure(cut.after),
  steps: cut.steps.map(({ id, before, after, items }) => ({
    step: id,
    before: plainMeasure(before),
    after: plainMeasure(after),
    items: items.map(({ sheet, blockId, words, what, from, to, places, kept }) => ({ sheet, block: blockId, words, what, from, to, places, kept })),
  })),
});

/** @returns 0 where all went well, 2 where a file failed */
async function many(
  files: readonly string[],
  folder: string,
  { options, jobs, report }: { options: Parameters<typeof refineMany>[2]; jobs: number; report: string | undefined },
  { out, error }: Output,
): Promise<number> {
  const told = (outcome: Outcome, done: number, of: number): void => {
    const where = `${done}/${of} ${outcome.file}`;
    if (outcome.state === 'failed') error(`${where}: ${outcome.error ?? 'failed'}\n`);
    else out(`${where}: ${saidOf(outcome)}\n`);
  };
  const outcomes = await refineMany(files, folder, options, jobs, told, (link) => error(`${link} is a link, and is left out. Name it to refine it.\n`));
  const count = (state: Outcome['state']): number => outcomes.filter((one) => one.state === state).length;
  out(`${count('refined')} refined, ${count('kept')} as they were made before, ${count('failed')} failed\n`);
  if (report !== undefined) writeFileSync(report, `${JSON.stringify({ files: outcomes }, null, 2)}\n`);
  return count('failed') > 0 ? 2 : 0;
}

const saidOf = ({ state, before, after }: Outcome): string =>
  state === 'kept' ? 'as it was made before' : `evenness ${shown(before?.evenness)} to ${shown(after?.evenness)}, ${countOf(after?.findings ?? 0)}`;
