/**
 * Starts the server. Environment: JENTRIX_DATA (folder of the database), JENTRIX_PORT (4600; 0 takes a free one),
 * JENTRIX_HOST (127.0.0.1), JENTRIX_ALLOWED_HOSTS (more host names, separated by commas), JENTRIX_DEMO=1 (seed an empty database),
 * JENTRIX_PAGE (folder of the built page), JENTRIX_WATCH=1 (say on standard error when the main thread was held up).
 */
import { randomUUID } from 'node:crypto';
import { existsSync, rmSync } from 'node:fs';
import { type RequestListener, createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { basename, dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { DataSource } from 'typeorm';
import { createApp } from './app';
import { copyOf } from './backups/before-upgrade';
import { damageOf, newestGood } from './backups/copies';
import { openDatabase } from './data-source';
import { OwnedError, type Owner, own } from './database/owner';
import { seedDemo } from './demo/seed';
import { allowedHosts } from './http/hosts';
import { assemble, close } from './parts';
import { watchHolds } from './watch';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const { env } = process;

const fail = (message: string): never => {
  console.error(message);
  process.exit(1);
};

const data = resolve(env['JENTRIX_DATA'] ?? join(root, 'data'));
const database = join(data, 'jentrix.sqlite');
const backups = join(data, 'backups');
const spools = join(data, 'spool');

/** Takes the folder before anything in it is touched: another server may be at work in it. */
function owned(): Owner {
  try {
    return own(data);
  } catch (error) {
    if (error instanceof OwnedError) return fail(error.message);
    throw error;
  }
}

/** Advice for a database that can’t be opened. */
function advice(): string {
  const good = newestGood(backups);
  if (!good) return 'Nothing was changed, and there is no backup. Put back a copy of the data folder, or move the file away to begin anew.';
  const size = `${(good.bytes / 1024 ** 2).toFixed(1)} MB`;
  return `Nothing was changed. The newest good backup is of ${good.createdAt} (${size}). Put it back with:\n  npm run restore -- ${join(backups, good.name)}`;
}

async function open(): Promise<DataSource> {
  const damage = existsSync(database) ? damageOf(database) : undefined;
  if (damage !== undefined) return fail(`Jentrix can’t open its database ${database}: it is damaged (${damage}).\n${advice()}`);
  try {
    return await openDatabase(database, (dataSource) => copyOf(dataSource, backups));
  } catch (error) {
    return fail(`Jentrix can’t open its database ${database}: ${error instanceof Error ? error.message : String(error)}\n${advice()}`);
  }
}

let owner = owned();
let handle: RequestListener = (_request, response) => {
  response.writeHead(503, { 'retry-after': '1', 'content-type': 'text/plain' }).end('Jentrix is starting.');
};
const server = createServer((request, response) => handle(request, response));
const host = env['JENTRIX_HOST'] ?? '127.0.0.1';
await new Promise<void>((listening) => {
  server.once('error', (error) => {
    owner.release();
    fail(`Jentrix can’t start: ${error.message}`);
  });
  server.listen(Number(env['JENTRIX_PORT'] ?? 4600), host, listening);
});
const address = `http://${host}:${(server.address() as AddressInfo).port}`;
owner.answersAt(address);

/** The folder at its place is another one than was locked: it is taken too, unless somebody else was quicker. */
const claim = (): void => {
  owner.release();
  owner = own(data);
  owner.answersAt(address);
};

// What other servers of this folder left there is nobody's any more.
rmSync(spools, { recursive: true, force: true });
const parts = assemble(await open(), { database, faces: join(root, 'faces'), spool: join(spools, randomUUID()), backups, data, claim });
if (env['JENTRIX_DEMO'] === '1') {
  const added = await seedDemo(parts.jobs, parts.pictures, join(root, 'demo'));
  if (added > 0) console.log(`Added ${added} demo jobs.`);
}
if (env['JENTRIX_WATCH'] === '1') watchHolds();
parts.backups.start();

handle = createApp({
  ...parts,
  thumbnails: { folder: join(data, 'thumbnails'), drawnBy: basename(env['JENTRIX_PROGRAMS'] ?? '') },
  webRoot: env['JENTRIX_PAGE'] ?? join(root, 'dist/page/none'),
  hosts: allowedHosts(host, env['JENTRIX_ALLOWED_HOSTS']),
});
console.log(`Jentrix is ready at ${address}`);

const stop = (): void => {
  server.close(() => {
    void close(parts).finally(() => {
      owner.release();
      process.exit(0);
    });
  });
  server.closeAllConnections();
};
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
