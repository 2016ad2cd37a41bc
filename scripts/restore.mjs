// npm run restore -- FILE: puts a backup in place of the data of ./data (or JENTRIX_DATA), which is backed up first. No server may run on it.
import { ensurePackages } from './install.mjs';

await ensurePackages();
await import('../server/bin/restore.mjs');
