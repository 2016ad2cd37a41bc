/** Checking and refining whole jobs: what the command does, and the server can. */
import { type Job, findBlock, resolveSheet, setStyle } from '../job';
import { type FaceSet, facesOf, setBlock } from '../setting';
import { evenness } from '../spacing';
import type { Finding } from './finding';
import { type Inspection, inspectBlock } from './inspect';

/** A finding with what a reader without the sheet needs to find it. */
export interface JobFinding extends Finding {
  sheet: string;
  words: string;
}

/** The findings of all blocks whose faces are here, most visible first, and the evenness of all their gaps together. */
export function checkJob(job: Job, faces: FaceSet): { findings: JobFinding[]; evenness: number | undefined; inspections: Inspection[] } {
  const findings: JobFinding[] = [];
  const inspections: Inspection[] = [];
  for (const raw of job.sheets) {
    const sheet = resolveSheet(job, raw);
    for (const block of sheet.blocks) {
      if (facesOf(block).some((id) => !faces.has(id))) continue;
      const inspection = inspectBlock(block, setBlock(block, faces), faces);
      inspections.push(inspection);
      findings.push(...inspection.findings.map((finding) => ({ ...finding, sheet: sheet.name, words: block.words.replaceAll('\n', ' ') })));
    }
  }
  findings.sort((a, b) => b.visiblePt - a.visiblePt);
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
    const whole = setStyle(next, id, { kerning: 'shape', kerningStrength });
    return length > 0 ? setStyle(whole, id, { kerning: 'shape', kerningStrength }, { start: 0, end: length }) : whole;
  }, job);
}
