// npm run bench [-- NAME …]: installs and builds what is missing, then measures.
import { load } from './compiled.mjs';
import { ensureChromium, ensurePackages, ensurePage } from './setup.mjs';

await ensurePackages();
ensureChromium();
await ensurePage();
await load('bench/src/main.ts');
