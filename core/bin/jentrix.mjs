#!/usr/bin/env node
// The `jentrix` command.
import { load } from '../../scripts/compiled.mjs';

const { main } = await load('core/src/cli/main.ts');
process.exitCode = await main(process.argv.slice(2));
