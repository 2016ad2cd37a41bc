// What the commands need before they can start: installed packages, a browser for tests, the built page.
// Plain Node without packages, since it runs before there are any. Each step is skipped when nothing has changed.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
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
async function once(stamp, paths, make) {
  const file = join(root, stamp);
  const hash = hashOf(paths);
  if (existsSync(file) && readFileSync(file, 'utf8') === hash) return;
  await make();
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
export async function ensurePackages() {
  if (Number(process.versions.node.split('.')[0]) < 20) fail(`Jentrix needs Node 20 or newer; this is ${process.version}.`);
  await once('node_modules/.jentrix-installed', ['package-lock.json', ...['.', ...WORKSPACES].map((folder) => `${folder}/package.json`)], () => {
    console.log('Installing packages (compiling SQLite takes a minute or two) …');
    run('npm', ['ci', '--no-audit', '--no-fund']);
  });
}

/** Files that are smaller compressed; fonts of the page and pictures are already. */
const COMPRESSIBLE = /\.(js|css|wasm|svg|json|ttf)$/;

const HELP_FONTS = ['source-sans-3-regular.woff2', 'source-sans-3-semibold.woff2'];

/** Writes the pages of docs/using, which the page links to, as HTML with the pictures they show. */
async function writeHelp() {
  const { marked } = await import('marked');
  const [from, to] = [join(root, 'docs/using'), join(PAGE, 'help')];
  mkdirSync(to, { recursive: true });
  const { compile } = await import('sass');
  writeFileSync(join(to, 'help.css'), compile(join(root, 'web/help.scss')).css);
  copyFileSync(join(root, 'web/help.js'), join(to, 'help.js'));
  for (const font of HELP_FONTS) copyFileSync(join(root, 'web/src/fonts', font), join(to, font));
  for (const name of readdirSync(from)) {
    const text = readFileSync(join(from, name), 'utf8');
    for (const [, picture] of text.matchAll(/\(\.\.\/screenshots\/([\w-]+\.png)\)/g)) {
      // Pictures are taken from a page that was built before.
      if (existsSync(join(root, 'docs/screenshots', picture))) copyFileSync(join(root, 'docs/screenshots', picture), join(to, picture));
    }
    // What leads out of these pages is told, and leads nowhere here.
    const here = text
      .replace(/\]\(\.\.\/screenshots\//g, '](')
      .replace(/(?<!!)\[([^\]]+)\]\(\.\.[^)]*\)/g, '$1')
      .replace(/\]\(([\w-]+)\.md\)/g, ']($1.html)');
    const title = /^# (.*)$/m.exec(text)?.[1] ?? 'Jentrix';
    const index = name === 'README.md' ? '' : '<p><a href="README.html">All pages</a></p>';
    const head = `<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${title} · Jentrix</title><link rel="stylesheet" href="help.css"><script src="help.js"></script>`;
    writeFileSync(
      join(to, name.replace(/\.md$/, '.html')),
      `<!doctype html><html lang="en"><head>${head}</head><body><main>${index}${marked.parse(here)}</main></body></html>\n`,
    );
  }
}

/** Builds the page, and puts a Brotli file beside each of its files and of the shipped faces, at the highest quality. */
export async function buildPage() {
  console.log('Building the page …');
  run('npx', ['ng', 'build', '--progress=false', '--stats-json']);
  writeEarly();
  await writeHelp();
  writeShell();
  writeServiceWorker();
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

const PAGE = join(root, 'web/dist/browser');

/**
 * Writes the page as it is kept for when there is no server: the same bytes for everybody, so its nonce is the build's and stands for
 * style elements only (`server/src/http/page.ts`).
 */
function writeShell() {
  const nonce = createHash('sha256')
    .update(readFileSync(join(PAGE, 'index.html')))
    .digest('base64url')
    .slice(0, 22);
  writeFileSync(join(PAGE, 'shell.html'), readFileSync(join(PAGE, 'index.html'), 'utf8').replaceAll('CSP_NONCE', nonce));
}

/** Writes what the service worker keeps (`web/ngsw-config.json`) and puts the worker beside it. */
function writeServiceWorker() {
  run('npx', ['ngsw-config', 'web/dist/browser', 'web/ngsw-config.json']);
  copyFileSync(join(root, 'node_modules/@angular/service-worker/ngsw-worker.js'), join(PAGE, 'ngsw-worker.js'));
}

/** Builds the page when its sources have changed. */
export async function ensurePage() {
  await once(
    'web/dist/.jentrix-built',
    [
      'package-lock.json',
      'angular.json',
      'tsconfig.base.json',
      'web/src',
      'web/public',
      'web/ngsw-config.json',
      'web/help.scss',
      'web/help.js',
      'docs/using',
      'docs/screenshots',
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
  if (missing.length > 0) installed(missing.map(([, name]) => name), 'The tests read PDF with poppler and qpdf, and feature code with fontTools. Install them'); // prettier-ignore
}

/** Finds Chromium, or installs Debian's where that is possible. Its path ends up in CHROME_BIN. */
export function ensureChromium() {
  if (!chromium()) installed(['chromium'], 'The browser tests need Chromium. Name one in CHROME_BIN, or install it');
  process.env.CHROME_BIN = chromium() ?? fail('Chromium was installed but can’t be found.');
}
