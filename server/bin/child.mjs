// One process of the server's pools.
import { load } from '../../scripts/compiled.mjs';

await load('server/src/pool/child.ts');
