// Runs the server until it ends or is told to.
import { spawn } from 'node:child_process';
import { root } from './setup.mjs';

export function serve(env) {
  const child = spawn(process.execPath, ['server/bin/server.mjs'], { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 0));
}
