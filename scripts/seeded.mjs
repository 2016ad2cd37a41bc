// A data folder with the demo in it, which each journey copies: bringing a database up to date and filling it takes longer than most of what is tested.
import { spawn } from 'node:child_process';
import { existsSync, readdirSync, rmSync } from 'node:fs';
import { basename, join } from 'node:path';
import { ensurePrograms } from './programs.mjs';
import { inWhole, root, stateOf, tidy } from './steps.mjs';

/** @returns the folder, made where there is none for this state of server and demo */
export async function seeded() {
  const folder = join(root, 'dist/seeded', `${basename(await ensurePrograms())}-${stateOf(['demo', 'faces/faces.json', 'scripts/seeded.mjs'])}`);
  if (existsSync(folder)) return folder;
  await inWhole(folder, fill);
  tidy(folder);
  return folder;
}

/** Has what the shelf says of each job measured, which the database keeps. */
async function measured(address) {
  const { items } = await (await fetch(`${address}/api/jobs`)).json();
  await Promise.all(items.map(({ id }) => fetch(`${address}/api/jobs/${id}/measure`)));
}

async function fill(folder) {
  const env = { ...process.env, JENTRIX_DATA: folder, JENTRIX_PORT: '0', JENTRIX_DEMO: '1' };
  const server = spawn(process.execPath, ['server/bin/server.mjs'], { cwd: root, env, stdio: ['ignore', 'pipe', 'inherit'] });
  await new Promise((done, failed) => {
    server.stdout.on('data', (chunk) => {
      const [, address] = /ready at (\S+)/.exec(chunk.toString()) ?? [];
      if (address) measured(address).then(() => server.kill('SIGTERM'), failed);
    });
    server.on('error', failed);
    server.on('exit', done);
  });
  // Only the database is copied: lock, spool and backups belong to the server that made it.
  for (const name of readdirSync(folder)) if (!name.startsWith('jentrix.sqlite')) rmSync(join(folder, name), { recursive: true });
  if (!existsSync(join(folder, 'jentrix.sqlite'))) throw new Error('The demo could not be put into a database.');
}
