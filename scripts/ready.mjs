// What is made before anything is served, measured or tried: packages, page and programs.
import { ensureDriver, ensurePackages } from './install.mjs';
import { compressFaces, ensurePage } from './page.mjs';
import { ensurePrograms } from './programs.mjs';

/** @param everything true for what tests, linters and benchmarks need besides */
export async function ensureReady({ everything = false } = {}) {
  await ensurePackages({ everything });
  // The driver is still being compiled, where it was missing.
  await ensurePage();
  await ensurePrograms();
  await ensureDriver();
}

/** All of it, for good: the shipped faces are compressed too, which no server waits for. */
export async function ensureBuilt(options) {
  await ensureReady(options);
  await compressFaces();
}
