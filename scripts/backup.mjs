// npm run backup -- FILE: copies all data of ./data (or JENTRIX_DATA) into a file, while a server runs or not.
import { ensurePackages } from './install.mjs';

await ensurePackages();
await import('../server/bin/backup.mjs');
