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

/** Has what the shelf shows of each job measured and drawn: both are kept. */
async function shown(address) {
  const { items } = await (await fetch(`${address}/api/jobs`)).json();
  await Promise.all(
    items.flatMap(({ id }) => ['measure', 'thumbnail.png'].map(async (what) => (await fetch(`${address}/api/jobs/${id}/${what}`)).arrayBuffer())),
  );
}

async function fill(folder) {
  const env = { ...process.env, JENTRIX_DATA: folder, JENTRIX_PORT: '0', JENTRIX_DEMO: '1' };
  const server = spawn(process.execPath, ['server/bin/server.mjs'], { cwd: root, env, stdio: ['ignore', 'pipe', 'inherit'] });
  await new Promise((done, failed) => {
    server.stdout.on('data', (chunk) => {
      const [, address] = /ready at (\S+)/.exec(chunk.toString()) ?? [];
      if (address) shown(address).then(() => server.kill('SIGTERM'), failed);
    });
    server.on('error', failed);
    server.on('exit', done);
  });
  // Lock, spool and backups belong to the server that made them.
  for (const name of readdirSync(folder)) if (!name.startsWith('jentrix.sqlite') && name !== 'thumbnails') rmSync(join(folder, name), { recursive: true });
  if (!existsSync(join(folder, 'jentrix.sqlite'))) throw new Error('The demo could not be put into a database.');
}
