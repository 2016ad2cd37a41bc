// Checks the types of every workspace that the page's own build does not check.
import { spawnSync } from 'node:child_process';
import { root } from './steps.mjs';

for (const workspace of ['core', 'command', 'server', 'e2e', 'bench']) {
  const { status } = spawnSync('npx', ['tsc', '-p', workspace], { cwd: root, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
