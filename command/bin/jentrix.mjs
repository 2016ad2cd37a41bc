#!/usr/bin/env node
// The `jentrix` command.
import { helpOf, load } from '../../scripts/programs.mjs';

// Whoever reads the beginning of what is written here may leave with it.
process.stdout.on('error', (error) => process.exit(error.code === 'EPIPE' ? 0 : 2));
const { main } = await load('command/src/main.ts');
process.exitCode = await main(process.argv.slice(2), { help: helpOf });
