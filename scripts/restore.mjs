// npm run restore -- FILE: puts a backup in place of the data of ./data (or JENTRIX_DATA), which is backed up first. No server may run on it.
import { ensureInstalled } from './install.mjs';

await ensureInstalled();
await import('../server/bin/restore.mjs');
