// npm run build: page, server, its processes and the command, into dist. What is built already is left alone.
import { ensureBuilt } from './ready.mjs';

await ensureBuilt();
