// What the commands need before they can start: installed packages, a browser for tests, the built page.
// Plain Node without packages, since it runs before there are any. Each step is skipped when nothing has changed.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants } from 'node:zlib';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');

/** What compressed files end in. */
const COMPRESSED = '.br';

/** A hash over files and, for folders, everything in them. */
function hashOf(paths) {
  const hash = createHash('sha256').update(process.version);
  const add = (path) => {
    if (!existsSync(path) || path.endsWith(COMPRESSED)) return;
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) add(join(path, name));
    else hash.update(path.slice(root.length)).update(readFileSync(path));
  };
  for (const path of paths) add(join(root, path));
  return hash.digest('hex');
}

/** Runs `make` unless the stamp file already carries the hash of what it is made from. */
function once(stamp, paths, make) {
  const file = join(root, stamp);
  const hash = hashOf(paths);
  if (existsSync(file) && readFileSync(file, 'utf8') === hash) return;
  make();
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, hash);
}

function run(command, args) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit' });
  if (error || status !== 0) fail(`“${[command, ...args].join(' ')}” did not succeed${error ? `: ${error.message}` : ''}.`);
}

export function fail(message) {
  console.error(message);
  process.exit(1);
}

const WORKSPACES = ['core', 'server', 'web', 'e2e', 'bench'];

/** Installs the packages of the lock file when they are missing or the lock file has changed. */
export function ensurePackages() {
  if (Number(process.versions.node.split('.')[0]) < 20) fail(`Jentrix needs Node 20 or newer; this is ${process.version}.`);
  once('node_modules/.jentrix-installed', ['package-lock.json', ...['.', ...WORKSPACES].map((folder) => `${folder}/package.json`)], () => {
    console.log('Installing packages (compiling SQLite takes a minute or two) …');
    run('npm', ['ci', '--no-audit', '--no-fund']);
  });
}

/** Files that are smaller compressed; fonts of the page and pictures are already. */
const COMPRESSIBLE = /\.(js|css|wasm|svg|json|ttf)$/;

/** Builds the page, and puts a Brotli file beside each of its files and of the shipped faces, at the highest quality. */
export function buildPage() {
  console.log('Building the page …');
  run('npx', ['ng', 'build', '--progress=false', '--stats-json']);
  writeEarly();
  const built = readdirSync(join(root, 'web/dist'), { recursive: true }).map((name) => join(root, 'web/dist', name));
  const faces = readdirSync(join(root, 'faces')).map((name) => join(root, 'faces', name));
  for (const file of [...built, ...faces]) if (COMPRESSIBLE.test(file)) writeFileSync(file + COMPRESSED, smallest(readFileSync(file)));
}

/** Ways to write distances (RFC 7932, section 4) and blocks that one or the other kind of file comes out smaller by. */
const WAYS = [
  {},
  { [constants.BROTLI_PARAM_NPOSTFIX]: 2, [constants.BROTLI_PARAM_NDIRECT]: 4 },
  { [constants.BROTLI_PARAM_NDIRECT]: 8 },
  { [constants.BROTLI_PARAM_LGBLOCK]: 16 },
];

function smallest(bytes) {
  return WAYS.map((params) => brotliCompressSync(bytes, { params })).reduce((best, made) => (made.length < best.length ? made : best));
}

/** What an address leads to, by its source: the page, and the worker it cannot do without. */
const PAGES = { '/jobs/': { page: 'web/src/app/bench/bench.page.ts', worker: 'web/src/app/engine/engine.worker.ts' } };

/** Writes, for the server, what an address will need besides the scripts of every page, so that it is fetched from the beginning. */
function writeEarly() {
  const stats = join(root, 'web/dist/stats.json');
  const { outputs } = JSON.parse(readFileSync(stats, 'utf8'));
  rmSync(stats);
  const entry = (source) => Object.keys(outputs).find((name) => outputs[name].entryPoint === source);
  const withImports = (name, known = new Set()) => {
    if (!name || known.has(name)) return known;
    known.add(name);
    for (const { path, kind } of outputs[name].imports) if (kind === 'import-statement' && outputs[path]) withImports(path, known);
    return known;
  };
  const common = withImports(entry('web/src/main.ts'));
  const early = Object.entries(PAGES).map(([address, { page, worker }]) => [
    address,
    { scripts: [...withImports(entry(page))].filter((name) => !common.has(name)), worker: entry(worker) },
  ]);
  writeFileSync(join(root, 'web/dist/early.json'), JSON.stringify(Object.fromEntries(early)));
}

/** Builds the page when its sources have changed. */
export function ensurePage() {
  once(
    'web/dist/.jentrix-built',
    [
      'package-lock.json',
      'angular.json',
      'tsconfig.base.json',
      'web/src',
      'web/public',
      'web/tsconfig.json',
      'web/tsconfig.app.json',
      'web/tsconfig.worker.json',
      'scripts/setup.mjs',
      'core/src',
      'faces',
    ],
    buildPage,
  );
}

const chromium = () => {
  if (process.env.CHROME_BIN) return process.env.CHROME_BIN;
  const found = spawnSync('which', ['chromium'], { encoding: 'utf8' });
  return found.status === 0 ? found.stdout.trim() : undefined;
};

/** Finds Chromium, or installs Debian's where that is possible. Its path ends up in CHROME_BIN. */
export function ensureChromium() {
  if (!chromium()) {
    const isRoot = process.getuid?.() === 0;
    const hasApt = spawnSync('which', ['apt-get']).status === 0;
    if (!isRoot || !hasApt) {
      fail('The browser tests need Chromium. Install it (on Debian, as root: apt-get install chromium), or name one in CHROME_BIN.');
    }
    console.log('Installing Chromium …');
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    execFileSync('apt-get', ['update', '-qq'], { stdio: 'inherit', env });
    execFileSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], { stdio: ['ignore', 'ignore', 'inherit'], env });
  }
  process.env.CHROME_BIN = chromium() ?? fail('Chromium was installed but can’t be found.');
}
