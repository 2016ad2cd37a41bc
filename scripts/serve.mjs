// Runs the server until it ends or is told to.
import { spawn } from 'node:child_process';
import { constants, setPriority } from 'node:os';
import { compressFaces } from './page.mjs';
import { ensureReady } from './ready.mjs';
import { root } from './steps.mjs';

export async function serve(env) {
  await ensureReady();
  const child = spawn(process.execPath, ['server/bin/server.mjs'], { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 0));
  // Until they are compressed, faces are sent as they are; the server goes first.
  setPriority(constants.priority.PRIORITY_LOW);
  compressFaces().catch((error) => console.error(`The faces are sent as they are: ${error.message}`));
}
