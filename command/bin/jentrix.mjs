#!/usr/bin/env node
// The `jentrix` command.
import { helpOf, load } from '../../scripts/programs.mjs';

// A reader may close early, as “head” does.
process.stdout.on('error', (error) => process.exit(error.code === 'EPIPE' ? 0 : 2));
const { main } = await load('command/src/main.ts');
process.exitCode = await main(process.argv.slice(2), { help: helpOf });
