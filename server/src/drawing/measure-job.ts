/** The measures of a job: worked out beside the server. */
import type { JobMeasure } from '@jentrix/core/api';
import { checkJob } from '@jentrix/core/findings';
import { allBlocks } from '@jentrix/core/job';
import { type Preferences, judgeOf } from '@jentrix/core/preferences';
import { type DrawingInput, openedFaces } from './draw';
import { readStored } from '../filing/filing';

/** @throws ProblemError 422 where it can’t be read any more */
export async function measureJob({ preferences, ...input }: Omit<DrawingInput, 'out'> & { preferences: Preferences }): Promise<JobMeasure> {
  const job = readStored(input.document);
  const { evenness, findings } = checkJob(job, await openedFaces(allBlocks(job), input), { judge: judgeOf(preferences) });
  return { evenness: evenness ?? null, findings: findings.length };
}
