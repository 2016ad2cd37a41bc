/**
 * Starts the server. Environment: JENTRIX_DATA (folder of the database), JENTRIX_PORT (4600; 0 takes a free one),
 * JENTRIX_HOST (127.0.0.1), JENTRIX_ALLOWED_HOSTS (more host names, separated by commas), JENTRIX_DEMO=1 (seed an empty database),
 * JENTRIX_WATCH=1 (say on standard error when the main thread was held up).
 */
import { mkdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { DataSource } from 'typeorm';
import { createApp } from './app';
import { openDatabase } from './database/data-source';
import { seedDemo } from './demo/seed';
import { assemble, close } from './parts';
import { watchHolds } from './watch';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const { env } = process;

const fail = (message: string): never => {
  console.error(message);
  process.exit(1);
};

const data = resolve(env['JENTRIX_DATA'] ?? join(root, 'data'));
const file = join(data, 'jentrix.sqlite');

async function open(): Promise<DataSource> {
  try {
    mkdirSync(data, { recursive: true });
    return await openDatabase(file);
  } catch (error) {
    return fail(
      `Jentrix can’t open its database ${file}: ${error instanceof Error ? error.message : String(error)}\n` +
        'Nothing was changed. Put back a copy of the data folder, or move the file away to begin anew.',
    );
  }
}

const parts = assemble(await open(), join(root, 'faces'), join(data, 'spool'));
if (env['JENTRIX_DEMO'] === '1') {
  const added = await seedDemo(parts.jobs, parts.pictures, join(root, 'demo'));
  if (added > 0) console.log(`Added ${added} demo jobs.`);
}
if (env['JENTRIX_WATCH'] === '1') watchHolds();

const host = env['JENTRIX_HOST'] ?? '127.0.0.1';
const hosts = new Set(['127.0.0.1', 'localhost', '[::1]', host, ...(env['JENTRIX_ALLOWED_HOSTS'] ?? '').split(',').filter(Boolean)]);
const app = createApp({ ...parts, webRoot: join(root, 'web/dist/browser'), hosts });

const server = app.listen(Number(env['JENTRIX_PORT'] ?? 4600), host, (error) => {
  if (error) fail(`Jentrix can’t start: ${error.message}`);
  console.log(`Jentrix is ready at http://${host}:${(server.address() as AddressInfo).port}`);
});

const stop = (): void => {
  server.close(() => {
    void close(parts).finally(() => process.exit(0));
  });
  server.closeAllConnections();
};
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
