// npm run bench [-- NAME …]: installs and builds what is missing, then measures.
import { ensureChromium } from './install.mjs';
import { load } from './programs.mjs';
import { ensureBuilt } from './ready.mjs';

await ensureBuilt({ everything: true });
ensureChromium();
await load('bench/src/main.ts');
