// npm run demo: installs and builds what is missing, then serves the demo from its own database.
import { join } from 'node:path';
import { ensurePackages, ensurePage, root } from './setup.mjs';
import { serve } from './serve.mjs';

await ensurePackages();
await ensurePage();
serve({ JENTRIX_DEMO: '1', JENTRIX_DATA: process.env.JENTRIX_DATA ?? join(root, 'data', 'demo') });
