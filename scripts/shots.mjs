// npm run shots: makes the pictures of docs/screenshots anew from the demo.
import { spawnSync } from 'node:child_process';
import { ensureChromium, ensurePackages, ensurePage, root } from './setup.mjs';

await ensurePackages();
ensureChromium();
await ensurePage();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'e2e/src/shots.ts'], { cwd: root, stdio: 'inherit' });
process.exit(status ?? 1);
