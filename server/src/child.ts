/** The program of a process in a pool. */
import { serveTasks } from './pool/child';
import { tasksByName } from './tasks';

serveTasks(tasksByName);
