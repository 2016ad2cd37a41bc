// What has to be there before anything starts: packages, and for tests a browser and other programs. What is there is left alone.
import { execFileSync, spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail, quietly, root, stateOf, step } from './steps.mjs';

const WORKSPACES = ['core', 'command', 'server', 'web', 'e2e', 'bench'];
const LISTS = ['package-lock.json', ...['.', ...WORKSPACES].map((folder) => `${folder}/package.json`)];
const STAMP = join(root, 'node_modules/.jentrix-installed');

/**
 * Installs the packages of the lock file where they are missing or the lock file has changed, and begins to make the database driver.
 * @param everything true for what tests, linters and benchmarks need besides
 */
export async function ensurePackages({ everything = false } = {}) {
  if (Number(process.versions.node.split('.')[0]) < 20) fail(`Jentrix needs Node 20 or newer; this is ${process.version}.`);
  const state = stateOf(LISTS);
  const [there, extent] = existsSync(STAMP) ? readFileSync(STAMP, 'utf8').split(' ') : [];
  const same = there === state;
  if (same && (extent === 'everything' || !everything)) return;
  // It takes as long as the packages: both at a time. Whoever needs it waits for it.
  driverMade().catch(() => undefined);
  // Packages of the tests stay once they are installed.
  const all = everything || extent === 'everything';
  rmSync(STAMP, { force: true });
  // Packages are added to those of the same state; otherwise they begin anew. No package's own script is run: none but the driver's is needed.
  const how = same ? ['install', '--no-save'] : ['ci', ...(all ? [] : ['--omit=dev'])];
  try {
    await step(all ? 'Packages, those of the tests among them' : 'Packages', all ? '3 minutes' : 'a minute', () =>
      quietly('npm', [...how, '--ignore-scripts', '--no-audit', '--no-fund']),
    );
  } catch (error) {
    fail(error.message);
  }
  if (!all) withoutMaps(join(root, 'node_modules'));
  writeFileSync(STAMP, `${state} ${all ? 'everything' : 'lean'}`);
}

/** Takes the source maps of packages away, a fifth of what they take on the disk: nothing here reads them. */
function withoutMaps(folder) {
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (entry.isFile() && /\.[cm]?(js|ts)\.map$/.test(entry.name)) rmSync(join(entry.parentPath, entry.name));
  }
}

const DRIVER = 'better-sqlite3';
const BINARY = 'build/Release/better_sqlite3.node';
const lock = () => JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')).packages[`node_modules/${DRIVER}`];

/** Where the compiled driver is kept, so that it outlasts packages that are installed anew. */
const driverPlace = () => join(root, 'dist/driver', `${lock().version}-${process.platform}-${process.arch}-${process.versions.modules}.node`);

/** Puts the database driver among the packages; no binary of it can be had from the registry, so it is compiled once on each machine. */
export async function ensureDriver() {
  const binary = join(root, 'node_modules', DRIVER, BINARY);
  if (existsSync(binary)) return;
  try {
    if (!existsSync(driverPlace())) await step('The database driver, which is compiled on this machine', '2 minutes since the beginning', driverMade);
  } catch (error) {
    fail(error.message);
  }
  mkdirSync(join(binary, '..'), { recursive: true });
  copyFileSync(driverPlace(), binary);
}

let making;
const driverMade = () => (making ??= existsSync(driverPlace()) ? Promise.resolve() : makeDriver());

/** Gets the driver alone and compiles it. */
async function makeDriver() {
  const folder = join(root, 'dist/driver', `making-${process.pid}`);
  mkdirSync(folder, { recursive: true });
  try {
    writeFileSync(join(folder, 'package.json'), JSON.stringify({ private: true, dependencies: { [DRIVER]: lock().version } }));
    await quietly('npm', ['install', '--no-audit', '--no-fund', '--no-package-lock'], { cwd: folder, env: { ...process.env, JOBS: 'max' } });
    renameSync(join(folder, 'node_modules', DRIVER, BINARY), driverPlace());
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Packages and the driver, for whoever builds nothing. */
export async function ensureInstalled(options) {
  await ensurePackages(options);
  await ensureDriver();
}

const chromium = () => {
  if (process.env.CHROME_BIN) return process.env.CHROME_BIN;
  const found = spawnSync('which', ['chromium'], { encoding: 'utf8' });
  return found.status === 0 ? found.stdout.trim() : undefined;
};

/** Installs packages of Debian where that is possible. @param needs what they are for, in words */
function installed(packages, needs) {
  const isRoot = process.getuid?.() === 0;
  const hasApt = spawnSync('which', ['apt-get']).status === 0;
  if (!isRoot || !hasApt) fail(`${needs} (on Debian, as root: apt-get install ${packages.join(' ')}).`);
  console.log(`Installing ${packages.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  execFileSync('apt-get', ['update', '-qq'], { stdio: 'inherit', env });
  execFileSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], { stdio: ['ignore', 'ignore', 'inherit'], env });
}

/** Other programs that read what is written here, for the tests: poppler and qpdf, and fontTools for feature code. */
export function ensureReaders() {
  const missing = [
    ['pdftotext', 'poppler-utils'],
    ['qpdf', 'qpdf'],
    ['fonttools', 'fonttools'],
  ].filter(([command]) => spawnSync('which', [command]).status !== 0);
  if (missing.length > 0)
    installed(
      missing.map(([, name]) => name),
      'The tests read PDF with poppler and qpdf, and feature code with fontTools. Install them',
    );
}

/** Finds Chromium, or installs Debian's where that is possible. Its path ends up in CHROME_BIN. */
export function ensureChromium() {
  if (!chromium()) installed(['chromium'], 'The browser tests need Chromium. Name one in CHROME_BIN, or install it');
  process.env.CHROME_BIN = chromium() ?? fail('Chromium was installed but can’t be found.');
}
