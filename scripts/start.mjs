// npm start: the server on ./data (or JENTRIX_DATA), without demo data.
import { serve } from './serve.mjs';

await serve({});
