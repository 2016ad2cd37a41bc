// Puts a backup in place of all data.
import { load } from '../../scripts/programs.mjs';

const { restore } = await load('server/src/backups/by-hand.ts');
await restore(process.argv[2]);
