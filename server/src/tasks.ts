/** All work that is done in processes of its own. */
import { drawingTasks } from './drawing/tasks';
import { faceTasks } from './faces/tasks';
import { filingTasks } from './filing/tasks';
import { intakeTasks } from './intake/tasks';
import { packageTasks } from './packages/tasks';
import { pictureTasks } from './pictures/tasks';
import type { Task } from './pool/task';

const TASKS: readonly Task<never, unknown>[] = Object.values({
  ...filingTasks,
  ...faceTasks,
  ...pictureTasks,
  ...intakeTasks,
  ...packageTasks,
  ...drawingTasks,
});

export const tasksByName: ReadonlyMap<string, Task<never, unknown>> = new Map(TASKS.map((task) => [task.name, task]));
