// npm run demo: installs and builds what is missing, then serves the demo from its own database.
import { join } from 'node:path';
import { serve } from './serve.mjs';
import { root } from './steps.mjs';

await serve({ JENTRIX_DEMO: '1', JENTRIX_DATA: process.env.JENTRIX_DATA ?? join(root, 'data', 'demo') });
