// What the scripts share: where they are, how they run something, tell of it, and leave out what has been done. Plain Node, since it runs before there are packages.
import { spawn } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');

export function fail(message) {
  console.error(message);
  process.exit(1);
}

/** Runs a command, with what it prints kept unless it fails. @param yields true where others that run beside it go first. @returns once it has ended well. @throws with what it printed */
export function quietly(command, args, { cwd = root, env = process.env, yields = false } = {}) {
  return new Promise((done, failed) => {
    const child = spawn(command, args, { cwd, env, stdio: ['ignore', 'pipe', 'pipe'] });
    if (yields && child.pid) setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
    child.on('error', failed);
    child.on('close', (code) => (code === 0 ? done() : failed(new Error(`“${[command, ...args].join(' ')}” did not succeed.\n${said}`))));
  });
}

/** Does something that takes a while, and says so. @param about about how long it takes, in words */
export async function step(what, about, work) {
  console.log(`${what} … (about ${about})`);
  const start = Date.now();
  await work();
  console.log(`${what}: done in ${Math.round((Date.now() - start) / 1000)} s`);
}

const files = (path) => {
  if (!existsSync(path)) return [];
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path)
    .sort()
    .flatMap((name) => files(join(path, name)));
};

/** A name for the state of files, and of folders with all in them, by what they hold. @param wanted which of them count */
export function stateOf(paths, wanted = () => true) {
  const hash = createHash('sha256').update(process.version);
  for (const file of paths.flatMap((path) => files(join(root, path))).filter(wanted)) hash.update(file.slice(root.length)).update(readFileSync(file));
  return hash.digest('hex').slice(0, 20);
}

/** Makes a folder that other processes may be making too: whoever looks finds all of it or nothing. @param make fills the folder that it is given */
export async function inWhole(folder, make) {
  const part = `${folder}.${randomUUID()}`;
  mkdirSync(part, { recursive: true });
  try {
    await make(part);
    renameSync(part, folder);
  } catch (error) {
    rmSync(part, { recursive: true, force: true });
    // Another process was quicker.
    if (!existsSync(folder)) throw error;
  }
}

const USED = 'in-use-';
/** Builds older than this may go, in milliseconds: a command that still runs has no mark, and loads its parts as it goes. */
const OLD = 24 * 60 * 60 * 1000;

/** Keeps a build from being tidied away while this process lives. */
export function use(folder) {
  const mark = join(folder, USED + process.pid);
  try {
    writeFileSync(mark, '');
  } catch {
    // Somebody else's folder, which nobody tidies up then.
    return;
  }
  process.on('exit', () => rmSync(mark, { force: true }));
}

const lives = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
};

/** Takes older builds beside one away, but those that a process still uses. */
export function tidy(folder) {
  for (const name of readdirSync(dirname(folder), { withFileTypes: true })) {
    const other = join(name.parentPath, name.name);
    if (!name.isDirectory() || other === folder) continue;
    try {
      const used = readdirSync(other).some((mark) => mark.startsWith(USED) && lives(Number(mark.slice(USED.length))));
      if (!used && Date.now() - statSync(other).mtimeMs > OLD) rmSync(other, { recursive: true, force: true });
    } catch {
      // Others may be tidying up as well.
    }
  }
}
