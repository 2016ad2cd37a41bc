import { type Block, JOB_VERSION, type Job } from '@jentrix/core/job';
import { type KeptSteps, keptDatabase } from './kept-database';
import { orphaned, ownTab } from './tab';

/** Most jobs whose steps are kept: the oldest go first. */
const MOST_JOBS = 20;
/** Most steps of a job that are kept, and about the most bytes that they take. */
export const MOST_KEPT_STEPS = 300;
const MOST_BYTES = 4_000_000;

/** Keeps the steps of this tab's visit to a job, as many of the latest as there is room for. */
export async function keepSteps(jobId: string, steps: KeptSteps): Promise<void> {
  const [database, tabId] = await Promise.all([keptDatabase(), ownTab()]);
  const writing = database.transaction('steps', 'readwrite');
  void writing.store.put({ jobId, tabId, jobVersion: JOB_VERSION, ...bounded(steps), savedAt: Date.now() });
  // Committed at once, so that it holds even where the page goes now.
  writing.commit();
  await writing.done;
  const transaction = database.transaction('steps', 'readwrite');
  let extra = (await transaction.store.count()) - MOST_JOBS;
  for (let cursor = await transaction.store.index('savedAt').openCursor(); cursor && extra > 0; cursor = await cursor.continue(), extra--) {
    await cursor.delete();
  }
  await transaction.done;
}

/** The steps of the last visit to a job: this tab's, or of a tab that is gone. */
export async function stepsOf(jobId: string): Promise<KeptSteps | undefined> {
  const isFree = await orphaned();
  const all = await (await keptDatabase()).getAllFromIndex('steps', 'jobId', jobId);
  const [latest] = all.filter(({ tabId, jobVersion }) => jobVersion === JOB_VERSION && isFree(tabId)).sort((a, b) => b.savedAt - a.savedAt);
  return latest;
}

/** The latest steps that there is room for. What states share is counted, and kept, once. */
export function bounded({ past, present, future }: KeptSteps): KeptSteps {
  const seen = new Set<Block>();
  let bytes = 0;
  const fits = (job: Job): boolean => {
    for (const { blocks } of job.sheets) {
      bytes += 500;
      for (const block of blocks) {
        if (seen.has(block)) continue;
        seen.add(block);
        bytes += 2000 + 2 * block.words.length + 300 * block.runs.length + 30 * (block.hand.length + block.intended.length);
      }
    }
    return bytes <= MOST_BYTES;
  };
  const take = (states: readonly Job[]): readonly Job[] => {
    const end = states.findIndex((state, i) => i >= MOST_KEPT_STEPS || !fits(state));
    return end < 0 ? states : states.slice(0, end);
  };
  fits(present);
  const back = take(past.toReversed()).toReversed();
  return { past: back, present, future: take(future) };
}
