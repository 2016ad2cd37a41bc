// The server. What goes wrong in it is logged with the places in its sources.
import { load } from '../../scripts/compiled.mjs';

process.setSourceMapsEnabled(true);
await load('server/src/main.ts');
