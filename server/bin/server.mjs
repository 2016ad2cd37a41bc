// The server. What goes wrong in it is logged with the places in its sources.
import { dirname } from 'node:path';
import { builtPage } from '../../scripts/page.mjs';
import { load } from '../../scripts/programs.mjs';
import { use } from '../../scripts/steps.mjs';

process.setSourceMapsEnabled(true);
process.env.JENTRIX_PAGE = builtPage();
use(dirname(process.env.JENTRIX_PAGE));
await load('server/src/main.ts', { stays: true });
