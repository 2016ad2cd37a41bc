/** One process of a pool: carries out a task at a time. What is thrown here goes back in words; a process that may be damaged is replaced. */
import { constants, setPriority } from 'node:os';
import { setImmediate as nextTurn } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import { WordedError } from '@jentrix/core/errors';
import { type Problem, problemOf } from '../http/problem';
import { type TaskName, tasks } from './tasks';

export interface Assignment {
  task: TaskName;
  input: unknown;
}

/** What a process says when all that a task needs is there and the work begins. */
export const BEGUN = 'begun';

/** `broken` where nobody knows what the error has left behind, as when the shaper wrote past its memory. */
export type Answer = { result: unknown } | { problem: Problem; broken: boolean };

// Answering requests comes before drawing.
try {
  setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
} catch {
  // Not everywhere allowed.
}

process.on('message', ({ task, input }: Assignment) => {
  void (async (): Promise<Answer> => {
    try {
      const carryOut = (await tasks[task]()) as (input: unknown) => unknown;
      process.send?.(BEGUN);
      return { result: await carryOut(input) };
    } catch (error) {
      // An error would lose its members on the way.
      return { problem: { ...problemOf(error) }, broken: !(error instanceof WordedError) };
    }
  })().then(async (answer) => {
    await tidy();
    process.send?.(answer);
  });
});

/** Above this much memory, in bytes, a process tidies up after its task. */
const TIDY_FROM = 256 * 1024 ** 2;

/**
 * Lets go of what the task held. A renderer holds hundreds of megabytes that the garbage collector knows nothing of: without being
 * told to, it lets them pile up until the next task passes its limit.
 */
async function tidy(): Promise<void> {
  if (process.memoryUsage.rss() < TIDY_FROM) return;
  globalThis.gc?.();
  // What was found to be garbage is freed in the turns that follow.
  for (let turn = 0; turn < 2; turn++) await nextTurn();
}
process.on('disconnect', () => process.exit(0));
// A server that is killed can’t end a process that is deep in its work: this watch beside it does.
new Worker('const parent = process.ppid; setInterval(() => process.ppid === parent || process.kill(process.pid, "SIGKILL"), 500)', { eval: true }).unref();
