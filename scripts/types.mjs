// Checks the types of every workspace that the page's own build does not check, all in one go; what has not changed is not checked again.
import { spawnSync } from 'node:child_process';
import { root } from './steps.mjs';

const kept = ['--incremental', '--tsBuildInfoFile', 'node_modules/.cache/types.tsbuildinfo'];
const { status } = spawnSync('npx', ['tsc', '-p', '.', ...kept], { cwd: root, stdio: 'inherit' });
process.exit(status ?? 1);
