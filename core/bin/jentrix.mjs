#!/usr/bin/env node
// The `jentrix` command: runs the TypeScript of core/src/cli as it is.
import { register } from 'tsx/esm/api';

register();
const { main } = await import('../src/cli/main.ts');
process.exitCode = await main(process.argv.slice(2));
