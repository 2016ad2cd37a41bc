/** Pools by what they serve: saving waits for no file of a stranger, and the shelf for no long export. */
export const POOLS = ['saves', 'files', 'drawing', 'views'] as const;
export type PoolName = (typeof POOLS)[number];

/** Work for another process. A folder lists its own in `tasks.ts`; `server/src/tasks.ts` has them all. */
export interface Task<Input, Result> {
  name: string;
  pool: PoolName;
  /** Loads the work when it is first asked for, so that a process that reads jobs holds no renderer. Loading counts against no task. */
  load: () => Promise<(input: Input) => Result>;
}

/** A task's definition. @param name of its own among all tasks */
export const task = <Input, Result>(name: string, pool: PoolName, load: Task<Input, Result>['load']): Task<Input, Result> => ({ name, pool, load });
