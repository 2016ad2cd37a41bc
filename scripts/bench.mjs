// npm run bench [-- NAME …]: installs and builds what is missing, then measures.
import { ensureChromium, ensurePackages } from './install.mjs';
import { ensurePrograms, load } from './programs.mjs';
import { ensureBuilt } from './ready.mjs';

// What is measured on fonts alone needs no page and no browser.
if (['spacing', 'reading'].includes(process.argv[2])) {
  await ensurePackages({ everything: true });
  await ensurePrograms();
} else {
  await ensureBuilt({ everything: true });
  ensureChromium();
}
await load('bench/src/main.ts');
