// npm run fuzz -- COUNT [SEED]: sends hostile inputs to a real server.
import { spawnSync } from 'node:child_process';
import { ensurePackages, ensurePage, root } from './setup.mjs';

await ensurePackages();
await ensurePage();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'e2e/src/fuzz/main.ts', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' });
process.exit(status ?? 1);
