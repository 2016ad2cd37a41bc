// npm run backup -- FILE: copies all data of ./data (or JENTRIX_DATA) into a file, while a server runs or not.
import { ensureInstalled } from './install.mjs';

await ensureInstalled();
await import('../server/bin/backup.mjs');
