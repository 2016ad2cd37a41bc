// A thread of `jentrix refine`.
import { load } from '../../scripts/compiled.mjs';

await load('core/src/cli/bulk/refine-worker.ts');
