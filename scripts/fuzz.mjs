// npm run fuzz -- COUNT [SEED]: sends hostile inputs to a real server.
import { spawnSync } from 'node:child_process';
import { ensureReady } from './ready.mjs';
import { root } from './steps.mjs';

await ensureReady({ everything: true });
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'e2e/src/fuzz/main.ts', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' });
process.exit(status ?? 1);
