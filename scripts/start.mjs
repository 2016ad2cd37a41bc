// npm start: the server on ./data (or JENTRIX_DATA), without demo data.
import { ensurePackages, ensurePage } from './setup.mjs';
import { serve } from './serve.mjs';

await ensurePackages();
await ensurePage();
serve({});
