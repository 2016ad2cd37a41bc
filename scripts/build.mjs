// npm run build: the page, and its files compressed for good, since they are sent a thousand times as often as they are built.
import { buildPage, ensurePackages } from './setup.mjs';

await ensurePackages();
await buildPage();
