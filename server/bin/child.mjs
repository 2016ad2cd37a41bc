// One process of the server's pools.
import { load } from '../../scripts/programs.mjs';

await load('server/src/child.ts');
