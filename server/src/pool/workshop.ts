/** All processes beside the server, and the folder they share with it. */
import { availableParallelism } from 'node:os';
import { ProcessPool } from './process-pool';
import { Spool } from './spool';
import { POOLS, type PoolName, type Task } from './task';

export class Workshop {
  readonly spool: Spool;
  private readonly pools: Readonly<Record<PoolName, ProcessPool>> = {
    saves: new ProcessPool('job', { processes: 2 }),
    files: new ProcessPool('file', { processes: 2 }),
    // Leaves a core to the server.
    drawing: new ProcessPool('drawing', { processes: Math.max(1, Math.min(3, availableParallelism() - 1)) }),
    views: new ProcessPool('thumbnail', { processes: 1 }),
  };

  /** @param folder for the files in between. @param root the data folder that it lies in */
  constructor(folder: string, root?: string) {
    this.spool = new Spool(folder, root);
  }

  /** Carries out a task in the pool it belongs to; see `ProcessPool.run`. */
  run<Input, Result>(task: Task<Input, Result>, input: Input): Promise<Awaited<Result>> {
    return this.pools[task.pool].run(task, input);
  }

  /** The processes there are, by their identifiers. */
  get pids(): number[] {
    return POOLS.flatMap((name) => this.pools[name].pids);
  }

  close(): void {
    for (const name of POOLS) this.pools[name].close();
    this.spool.close();
  }
}
