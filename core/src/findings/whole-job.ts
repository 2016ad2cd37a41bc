/** Checking whole jobs: what the command does, and the server can. */
import { readingDistance } from '../advice';
import { type Job, type Sheet, findBlock, resolveSheet, sheetOf } from '../job';
import { type FaceSet, facesOf, setBlock } from '../setting';
import { evenness } from '../spacing';
import { type Finding, byVisibility, isIntended } from './finding';
import { type Inspection, inspectView, viewOf } from './inspect';
import { JUDGING, type Judge, type Judging, type Rule, judgeJob, judgeSheet } from './rule';
import { RULES } from './rules';

/** A finding with what a reader without the sheet needs to find it. */
export interface JobFinding extends Finding {
  sheet: string;
  words: string;
}

/** What a sheet of a job is judged by: as people judge, from where it is read. */
export const judgingOf = (job: Pick<Job, 'kind'>, sheet: Pick<Sheet, 'widthPt' | 'heightPt'>, judge: Judge = JUDGING): Judging => ({
  ...judge,
  distanceMm: readingDistance(job.kind, sheet),
});

/** The findings of all blocks whose faces are here, of the sheets and the job, most visible first, and the evenness of all gaps together. */
export function checkJob(
  job: Job,
  faces: FaceSet,
  { judge = JUDGING, rules = RULES }: { judge?: Judge; rules?: readonly Rule[] } = {},
): { findings: JobFinding[]; evenness: number | undefined; inspections: Inspection[] } {
  const findings = judgeJob(rules, { job }).flatMap((finding): JobFinding[] => {
    const block = finding.blockId === undefined ? undefined : findBlock(job, finding.blockId);
    if (block && isIntended(block, finding)) return [];
    return [{ ...finding, sheet: (block && sheetOf(job, block.id)?.name) ?? '', words: block?.words.replaceAll('\n', ' ') ?? '' }];
  });
  const inspections: Inspection[] = [];
  for (const raw of job.sheets) {
    const sheet = resolveSheet(job, raw);
    const blocks = sheet.blocks.filter((block) => facesOf(block).every((id) => faces.has(id)));
    const views = blocks.map((block) => viewOf(block, setBlock(block, faces), faces, judgingOf(job, sheet, judge)));
    for (const view of views) {
      const inspection = inspectView(view, faces, rules);
      inspections.push(inspection);
      findings.push(...inspection.findings.map((finding) => ({ ...finding, sheet: sheet.name, words: view.block.words.replaceAll('\n', ' ') })));
    }
    const ofSheet = judgeSheet(rules, { sheet, blocks: views });
    findings.push(...ofSheet.map((finding) => ({ ...finding, sheet: sheet.name, words: '' })));
  }
  findings.sort(byVisibility);
  return { findings, evenness: evenness(inspections.flatMap(({ deviations }) => deviations)), inspections };
}
