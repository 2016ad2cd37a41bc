// npm run shots: makes the pictures of docs/screenshots anew from the demo.
import { spawnSync } from 'node:child_process';
import { ensureChromium } from './install.mjs';
import { ensureBuilt } from './ready.mjs';
import { root } from './steps.mjs';

await ensureBuilt({ everything: true });
ensureChromium();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'e2e/src/shots.ts'], { cwd: root, stdio: 'inherit' });
process.exit(status ?? 1);
