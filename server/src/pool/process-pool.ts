/**
 * Work that can abort, hang or eat memory, in processes of its own. A pool of ready-made processes per kind of work: each task has
 * limits of processor time and memory, which its process watches over itself; one that passes a limit is ended and replaced, and only
 * the caller hears of it. A busy machine makes work slower, and refuses none of it. Made here and not taken from a package, since those at hand can neither tell when a task begins nor which process has it,
 * and hand tasks to processes that are about to end.
 */
import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { ProblemError } from '../http/problem';
import type { ChildAnswer, Assignment, BEGUN, OVER_LIMIT } from './child';
import type { Task } from './task';

export interface PoolLimits {
  /** Most processes at a time. */
  processes: number;
  /** Most processor time a task may take, in milliseconds. */
  timeMs: number;
  /** Most memory a process may hold while it works, in bytes. */
  memoryBytes: number;
  /** Most tasks that wait; more are refused. */
  waiting: number;
}

/** Limits as they are stated in the README: 10 s of processor time and 1 GB a task. */
export const POOL_LIMITS: PoolLimits = { processes: 1, timeMs: 10_000, memoryBytes: 1024 ** 3, waiting: 500 };

/** How many times its processor time a task may take by the clock: beyond that its process stands still. */
const STALLED = 30;
/** Why a process has ended itself, by its signal. */
const LIMIT_BY_SIGNAL = { SIGVTALRM: 'time', SIGUSR2: 'memory' } as const satisfies Record<(typeof OVER_LIMIT)[keyof typeof OVER_LIMIT], string>;
/** A process without work ends after this long, in milliseconds. */
const IDLE_MS = 15_000;
/** A task that hasn't begun after this long never will, in milliseconds. */
const START_MS = 60_000;

const CHILD = fileURLToPath(new URL('../../bin/child.mjs', import.meta.url));

interface Waiting {
  assignment: Assignment;
  done: (result: never) => void;
  fail: (error: Error) => void;
}

interface Hand {
  process: ChildProcess;
  /** Its current task. */
  task: Waiting | undefined;
  /** Ends the watch over the task, or over idleness. */
  rest: () => void;
}

export class ProcessPool {
  private readonly hands = new Set<Hand>();
  private readonly queue: Waiting[] = [];
  private readonly limits: PoolLimits;
  private closed = false;

  /** @param purpose what is done here, as it stands in messages: “drawing”. */
  constructor(
    private readonly purpose: string,
    limits: Partial<PoolLimits> = {},
  ) {
    this.limits = { ...POOL_LIMITS, ...limits };
  }

  /** Identifiers of the processes there are. */
  get pids(): number[] {
    return [...this.hands].flatMap(({ process: { pid } }) => pid ?? []);
  }

  /**
   * Carries out a task in one of the processes.
   * @throws ProblemError what the task itself threw; 422 where it passed a limit or broke its process; 503 where too many wait
   */
  run<Input, Result>(task: Task<Input, Result>, input: Input): Promise<Awaited<Result>> {
    if (this.closed) return Promise.reject(stopping());
    if (this.queue.length >= this.limits.waiting) {
      return Promise.reject(new ProblemError(503, 'busy', 'Too much at once', 'Too much work is waiting. Try again in a moment.'));
    }
    return new Promise((done, fail) => {
      this.queue.push({ assignment: { task: task.name, input }, done, fail });
      this.next();
    });
  }

  /** Ends all processes; what is still waiting is refused. */
  close(): void {
    this.closed = true;
    for (const waiting of this.queue.splice(0)) waiting.fail(stopping());
    for (const hand of [...this.hands]) this.lose(hand, stopping());
  }

  private next(): void {
    while (this.queue.length > 0) {
      const idle = [...this.hands].find(({ task }) => task === undefined) ?? (this.hands.size < this.limits.processes ? this.hire() : undefined);
      if (!idle) return;
      const task = this.queue.shift();
      if (task) this.assign(idle, task);
    }
  }

  private hire(): Hand {
    const { timeMs, memoryBytes } = this.limits;
    const child = fork(CHILD, [String(timeMs), String(memoryBytes)], {
      execArgv: ['--expose-gc'],
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    const hand: Hand = { process: child, task: undefined, rest: () => undefined };
    this.hands.add(hand);
    child.on('message', (answer: ChildAnswer | typeof BEGUN) => {
      if (typeof answer !== 'string') this.receive(hand, answer);
      else if (hand.task) this.watch(hand);
    });
    child.on('error', () => this.lose(hand, this.problem('It stopped unexpectedly.')));
    child.on('exit', (_code, signal) => this.lose(hand, this.problem(this.endedBy(signal))));
    child.unref();
    child.channel?.unref();
    return hand;
  }

  private assign(hand: Hand, task: Waiting): void {
    hand.rest();
    hand.task = task;
    hand.process.channel?.ref();
    // Starting up and loading count against no task.
    const never = setTimeout(() => this.lose(hand, this.problem('It did not start.')), START_MS);
    hand.rest = () => clearTimeout(never);
    hand.process.send(task.assignment, (error) => {
      if (error) this.lose(hand, this.problem('It stopped unexpectedly.'));
    });
  }

  /** The process counts what a task takes; here is seen whether it still runs at all. */
  private watch(hand: Hand): void {
    hand.rest();
    const stalled = setTimeout(() => this.lose(hand, this.problem('It does not respond.')), STALLED * this.limits.timeMs);
    hand.rest = () => clearTimeout(stalled);
  }

  /** Why a process ended, in words. */
  private endedBy(signal: NodeJS.Signals | null): string {
    const { timeMs, memoryBytes } = this.limits;
    switch (LIMIT_BY_SIGNAL[signal as keyof typeof LIMIT_BY_SIGNAL]) {
      case 'time':
        return `It takes more than ${timeMs / 1000} seconds of processor time.`;
      case 'memory':
        return `It takes more than ${Math.round(memoryBytes / 1024 ** 2)} MB of memory.`;
      default:
        return 'It stopped unexpectedly.';
    }
  }

  private receive(hand: Hand, answer: ChildAnswer): void {
    const { task } = hand;
    if (!task) return;
    hand.rest();
    hand.task = undefined;
    if ('problem' in answer) {
      const { status, type, title, detail, extra } = answer.problem;
      task.fail(new ProblemError(status, type, title, detail, extra));
    } else task.done(answer.result as never);
    if ('problem' in answer && answer.broken) this.lose(hand);
    else if (this.queue.length > 0) this.next();
    else {
      hand.process.channel?.unref();
      const idle = setTimeout(() => this.lose(hand), IDLE_MS).unref();
      hand.rest = () => clearTimeout(idle);
    }
  }

  /** Kills a process, tells the caller of its task why, and goes on with what waits. */
  private lose(hand: Hand, why?: Error): void {
    if (!this.hands.delete(hand)) return;
    hand.rest();
    hand.process.kill('SIGKILL');
    if (why) hand.task?.fail(why);
    hand.task = undefined;
    if (!this.closed) this.next();
  }

  private problem(why: string): ProblemError {
    return new ProblemError(422, 'too-much', `The ${this.purpose} can’t be finished`, `${why} Saved work is safe.`);
  }
}

const stopping = (): ProblemError => new ProblemError(503, 'stopping', 'The server is stopping', 'Try again in a moment.');
