/**
 * Starts the server. Environment: JENTRIX_DATA (folder of the database), JENTRIX_PORT (4600; 0 takes a free one),
 * JENTRIX_HOST (127.0.0.1), JENTRIX_ALLOWED_HOSTS (more host names, separated by commas), JENTRIX_DEMO=1 (seed an empty database).
 */
import { mkdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createApp } from './app';
import { CatalogueService } from './catalogue/catalogue.service';
import { openDatabase } from './database/data-source';
import { seedDemo } from './demo/seed';
import { FaceLibrary } from './faces/face-library';
import { JobsService } from './jobs/jobs.service';
import { PicturesService } from './pictures/pictures.service';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const { env } = process;

const data = resolve(env['JENTRIX_DATA'] ?? join(root, 'data'));
mkdirSync(data, { recursive: true });
const dataSource = await openDatabase(join(data, 'jentrix.sqlite'));
if (env['JENTRIX_DEMO'] === '1') {
  const added = await seedDemo(new JobsService(dataSource), new PicturesService(dataSource), join(root, 'demo'));
  if (added > 0) console.log(`Added ${added} demo jobs.`);
}

const host = env['JENTRIX_HOST'] ?? '127.0.0.1';
const hosts = new Set(['127.0.0.1', 'localhost', '[::1]', host, ...(env['JENTRIX_ALLOWED_HOSTS'] ?? '').split(',').filter(Boolean)]);
const library = new FaceLibrary(join(root, 'faces'), new CatalogueService(join(root, 'faces/catalogue')), dataSource);
const app = createApp({ dataSource, library, webRoot: join(root, 'web/dist/browser'), hosts });

const server = app.listen(Number(env['JENTRIX_PORT'] ?? 4600), host, (error) => {
  if (error) {
    console.error(`Jentrix can’t start: ${error.message}`);
    process.exit(1);
  }
  console.log(`Jentrix is ready at http://${host}:${(server.address() as AddressInfo).port}`);
});

const stop = (): void => {
  server.close(() => {
    void dataSource.destroy().finally(() => process.exit(0));
  });
  server.closeAllConnections();
};
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
