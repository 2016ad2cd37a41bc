/** Checking and refining whole jobs: what the command does, and the server can. */
import { type Job, findBlock, resolveSheet, restyle } from '../job';
import { type FaceSet, facesOf, setBlock } from '../setting';
import { evenness } from '../spacing';
import { type Finding, byVisibility } from './finding';
import { type Inspection, inspectView, viewOf } from './inspect';
import { TRACKING_LIMITS, judgeJob, judgeSheet } from './rule';
import { RULES } from './rules';

/** A finding with what a reader without the sheet needs to find it. */
export interface JobFinding extends Finding {
  sheet: string;
  words: string;
}

/** The findings of all blocks whose faces are here, of the sheets and the job, most visible first, and the evenness of all gaps together. */
export function checkJob(job: Job, faces: FaceSet, rules = RULES): { findings: JobFinding[]; evenness: number | undefined; inspections: Inspection[] } {
  const findings: JobFinding[] = judgeJob(rules, { job, limits: TRACKING_LIMITS }).map((finding) => ({ ...finding, sheet: '', words: '' }));
  const inspections: Inspection[] = [];
  for (const raw of job.sheets) {
    const sheet = resolveSheet(job, raw);
    const blocks = sheet.blocks.filter((block) => facesOf(block).every((id) => faces.has(id)));
    const views = blocks.map((block) => viewOf(block, setBlock(block, faces), faces));
    for (const view of views) {
      const inspection = inspectView(view, faces, rules);
      inspections.push(inspection);
      findings.push(...inspection.findings.map((finding) => ({ ...finding, sheet: sheet.name, words: view.block.words.replaceAll('\n', ' ') })));
    }
    const ofSheet = judgeSheet(rules, { sheet, blocks: views, limits: TRACKING_LIMITS });
    findings.push(...ofSheet.map((finding) => ({ ...finding, sheet: sheet.name, words: '' })));
  }
  findings.sort(byVisibility);
  return { findings, evenness: evenness(inspections.flatMap(({ deviations }) => deviations)), inspections };
}

/**
 * A job with all words kerned by shape; hand kerning stays on top.
 * @param has tells whether a face is here; blocks that name another are left as they are.
 */
export function refineJob(job: Job, kerningStrength: number, has: (faceId: string) => boolean): Job {
  const ids = job.sheets.flatMap((sheet) => sheet.blocks.filter((block) => facesOf(block).every(has)).map(({ id }) => id));
  return ids.reduce((next, id) => {
    const length = findBlock(next, id)?.words.length ?? 0;
    const whole = restyle(next, id, { kerning: 'shape', kerningStrength });
    return length > 0 ? restyle(whole, id, { kerning: 'shape', kerningStrength }, { start: 0, end: length }) : whole;
  }, job);
}
