import { writeFileSync } from 'node:fs';
import { compareJobs, revertChanges, onLines } from '@jentrix/core/compare';
import { type JobCheck, checkJob } from '@jentrix/core/findings';
import { writeJobFile } from '@jentrix/core/formats';
import { findBlock, resolveBlock, sheetOf } from '@jentrix/core/job';
import { setBlock } from '@jentrix/core/setting';
import { type Command, twoJobsIn } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

const measured = ({ evenness, findings, blocks }: JobCheck) => ({ evenness: evenness ?? null, findings: findings.length, blocks });
const printed = ({ evenness, findings }: JobCheck): string =>
  `evenness ${evenness?.toFixed(0) ?? '-'}, ${findings.length} ${findings.length === 1 ? 'finding' : 'findings'}`;

/** @throws UsageError */
function chosen(list: string, ids: readonly string[]): string[] {
  if (list === 'all') return [...ids];
  return list.split(',').map((text) => {
    const id = ids[Number(text.trim()) - 1];
    if (id === undefined) throw new UsageError(`--revert takes all, or numbers from 1 to ${ids.length}, not “${text}”.`);
    return id;
  });
}

export const compare: Command = {
  name: 'compare',
  usage: ['BEFORE.json AFTER.json [--json] [--revert LIST -o OUT.json] [--faces DIR]'],
  says: 'Lists the changes between two states of a job, with evenness and findings of both; can revert single changes.',
  example: 'before.jentrix.json after.jentrix.json',
  options: ['json', 'revert', 'output', 'faces'],
  async run(values, files, { out, error }) {
    const [before, after] = twoJobsIn(files);
    if ((values.revert === undefined) !== (values.output === undefined)) throw new UsageError('--revert and -o go together.');
    const { faces, missing } = await facesForJob({ ...after, sheets: [...before.sheets, ...after.sheets] }, values.faces);
    for (const id of missing) error(`jentrix: the face “${id}” is missing; its words are not measured.\n`);
    const changes = onLines(compareJobs(before, after), (blockId) => {
      const [block, sheet] = [findBlock(after, blockId), sheetOf(after, blockId)];
      return block && sheet && setBlock(resolveBlock(after, sheet.id, block), faces).lines;
    });
    const [was, is] = [checkJob(before, faces), checkJob(after, faces)];
    if (values.json) out(`${JSON.stringify({ before: measured(was), after: measured(is), changes }, null, 2)}\n`);
    else {
      changes.forEach(({ sheet, words, says }, i) =>
        out(`${String(i + 1).padStart(4)}  ${sheet === undefined ? '' : `${sheet}: `}${says}${words ? ` in “${words}”` : ''}\n`),
      );
      out(`${printed(was)} before; ${printed(is)} after; ${changes.length} ${changes.length === 1 ? 'change' : 'changes'}\n`);
    }
    if (values.revert !== undefined && values.output !== undefined) {
      const ids = chosen(
        values.revert,
        changes.map(({ id }) => id),
      );
      writeFileSync(values.output, writeJobFile(revertChanges(before, after, ids)));
    }
    return 0;
  },
};
