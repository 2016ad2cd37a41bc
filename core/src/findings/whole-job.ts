/** Checking whole jobs: what the command does, and the server can. */
import { readingDistance } from '../advice';
import { type Job, type Sheet, findBlock, resolveSheet, sheetOf } from '../job';
import { type FaceSet, facesOf, inkOf, setBlock } from '../setting';
import { type Deviation, evenness } from '../spacing';
import { type Finding, byVisibility, isSilenced } from './finding';
import { inspectView, viewOf } from './inspect';
import { JUDGING, type Judge, type Judging, type Rule, judgeJob, judgeSheet } from './rule';
import { FINDING_RULES } from './rules';

/** A finding with what a reader without the sheet needs to find it. */
export interface JobFinding extends Finding {
  sheet: string;
  words: string;
}

/** The limits for a sheet of a job: as people judge, from where it is read. */
export const judgingOf = (job: Pick<Job, 'kind'>, sheet: Pick<Sheet, 'widthPt' | 'heightPt'>, judge: Judge = JUDGING): Judging => ({
  ...judge,
  distanceMm: readingDistance(job.kind, sheet),
});

/** The measures of a block of a job. */
export interface BlockMeasure {
  sheetId: string;
  blockId: string;
  /** 0 to 100; undefined where there are too few pairs. */
  evenness: number | undefined;
  findings: number;
  lines: number;
  /** Of its ink, not turned, in points; 0 where it has none. */
  widthPt: number;
  heightPt: number;
}

/** The measures of a whole job; plain data. */
export interface JobCheck {
  findings: JobFinding[];
  /** Of all gaps together. */
  evenness: number | undefined;
  /** The deviations behind the evenness: kerning minus wanted kerning of every pair inside words, in 1/1000 em. */
  deviations: Deviation[];
  /** Sheet by sheet; blocks whose faces are not here have none. */
  blocks: BlockMeasure[];
}

/** The findings of all blocks whose faces are here, of the sheets and the job, most visible first, and what every block measures. */
export function checkJob(job: Job, faces: FaceSet, { judge = JUDGING, rules = FINDING_RULES }: { judge?: Judge; rules?: readonly Rule[] } = {}): JobCheck {
  const findings = judgeJob(rules, { job }).flatMap((finding): JobFinding[] => {
    const block = finding.blockId === undefined ? undefined : findBlock(job, finding.blockId);
    if (block && isSilenced(block, finding)) return [];
    return [{ ...finding, sheet: (block && sheetOf(job, block.id)?.name) ?? '', words: block?.words.replaceAll('\n', ' ') ?? '' }];
  });
  const deviations: Deviation[] = [];
  const measures: BlockMeasure[] = [];
  for (const raw of job.sheets) {
    const sheet = resolveSheet(job, raw);
    const blocks = sheet.blocks.filter((block) => facesOf(block).every((id) => faces.has(id)));
    const views = blocks.map((block) => viewOf(block, setBlock(block, faces), faces, judgingOf(job, sheet, judge)));
    for (const view of views) {
      const inspection = inspectView(view, faces, rules);
      const ink = inkOf(view.setting, faces);
      deviations.push(...inspection.deviations);
      measures.push({
        ...{ sheetId: sheet.id, blockId: view.block.id, evenness: inspection.evenness },
        ...{ findings: inspection.findings.length, lines: view.setting.lines.length },
        ...{ widthPt: ink ? ink.rightPt - ink.leftPt : 0, heightPt: ink ? ink.bottomPt - ink.topPt : 0 },
      });
      findings.push(...inspection.findings.map((finding) => ({ ...finding, sheet: sheet.name, words: view.block.words.replaceAll('\n', ' ') })));
    }
    for (const finding of judgeSheet(rules, { sheet, blocks: views })) {
      const block = sheet.blocks.find(({ id }) => id === finding.blockId);
      if (!block || !isSilenced(block, finding)) findings.push({ ...finding, sheet: sheet.name, words: block?.words.replaceAll('\n', ' ') ?? '' });
    }
  }
  findings.sort(byVisibility);
  return { findings, evenness: evenness(deviations), deviations, blocks: measures };
}
