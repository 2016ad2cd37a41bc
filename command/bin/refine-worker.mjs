// A thread of `jentrix refine`.
import { load } from '../../scripts/programs.mjs';

await load('command/src/bulk/refine-worker.ts');
