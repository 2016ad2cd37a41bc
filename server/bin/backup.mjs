// Copies all data into a file.
import { load } from '../../scripts/programs.mjs';

const { backUp } = await load('server/src/backups/by-hand.ts');
await backUp(process.argv[2]);
