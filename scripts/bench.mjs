// npm run bench [-- NAME …]: installs and builds what is missing, then measures.
import { spawnSync } from 'node:child_process';
import { ensureChromium, ensurePackages, ensurePage, root } from './setup.mjs';

ensurePackages();
ensureChromium();
ensurePage();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'bench/src/main.ts', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' });
process.exit(status ?? 1);
