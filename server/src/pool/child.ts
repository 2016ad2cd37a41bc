/** A process of a pool: carries out one task at a time. Errors go back in words; a process that may be damaged is replaced. */
import { constants, setPriority } from 'node:os';
import { setImmediate as nextTurn } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import { WordedError } from '@jentrix/core/base';
import { type SentProblem, problemOf } from '../http/problem';
import type { Task } from './task';

/** A task by its name, with its input. */
export interface Assignment {
  task: string;
  input: unknown;
}

/** The message of a process when its task's input is there and the work begins. */
export const BEGUN = 'begun';

/** Signals that a process ends itself by: a task has had more processor time, or more memory, than it may. */
export const OVER_LIMIT = { time: 'SIGVTALRM', memory: 'SIGUSR2' } as const;

/** `broken` where nobody knows what the error has left behind, as when the shaper wrote past its memory. */
export type ChildAnswer = { result: unknown } | { problem: SentProblem; broken: boolean };

/** Serves the pool that started this process. @param tasks all there are, by name */
export function serveTasks(tasks: ReadonlyMap<string, Task<never, unknown>>): void {
  yieldToRequests();
  const watch = startWatch();
  /** Has the watch count what a task takes, from here on or no longer. */
  const count = (works: boolean): void => watch.postMessage(works);
  const taskCalled = (name: string): Task<never, unknown> => {
    const task = tasks.get(name);
    if (!task) throw new Error(`There is no task ${name}.`);
    return task;
  };
  process.on('message', ({ task, input }: Assignment) => {
    void (async (): Promise<ChildAnswer> => {
      try {
        const carryOut = (await taskCalled(task).load()) as (input: unknown) => unknown;
        process.send?.(BEGUN);
        count(true);
        return { result: await carryOut(input) };
      } catch (error) {
        // An error would lose its members on the way.
        return { problem: { ...problemOf(error) }, broken: !(error instanceof WordedError) };
      } finally {
        count(false);
      }
    })().then(async (answer) => {
      await tidy();
      process.send?.(answer);
    });
  });
  process.on('disconnect', () => process.exit(0));
}

function yieldToRequests(): void {
  // Answering requests comes before drawing.
  try {
    setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // Not everywhere allowed.
  }
}

/**
 * A thread beside the work, which sees what the process takes while the work holds its own: it ends the process once a task has had
 * more processor time or memory than it may, by a signal that says which, and when the server is gone.
 */
function startWatch(): Worker {
  const [processorMs = '0', memoryBytes = '0'] = process.argv.slice(2);
  const watch = new Worker(
    `const { workerData: { processorMs, memoryBytes, over } } = require('node:worker_threads');
  const parent = process.ppid;
  const spent = () => { const { user, system } = process.cpuUsage(); return (user + system) / 1000; };
  let from;
  require('node:worker_threads').parentPort.on('message', (works) => (from = works ? spent() : undefined));
  setInterval(() => {
    if (process.ppid !== parent) process.kill(process.pid, 'SIGKILL');
    if (from === undefined) return;
    if (spent() - from > processorMs) process.kill(process.pid, over.time);
    if (process.memoryUsage.rss() > memoryBytes) process.kill(process.pid, over.memory);
  }, 50);`,
    { eval: true, workerData: { processorMs: Number(processorMs), memoryBytes: Number(memoryBytes), over: OVER_LIMIT } },
  );
  watch.unref();
  return watch;
}

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
