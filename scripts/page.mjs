// The page: built into `dist/page`, one folder for each state of its sources, so that a server that runs keeps the page it began with.
import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { fail, inWhole, quietly, root, stateOf, step, tidy } from './steps.mjs';

const PAGES = join(root, 'dist/page');
/** Names the folder of the page that was built last. */
const CURRENT = join(PAGES, 'current');
const SOURCES = [
  'package-lock.json',
  'angular.json',
  'tsconfig.base.json',
  'web',
  'docs/using',
  'docs/screenshots',
  'scripts/page.mjs',
  'scripts/angular.mjs',
  'core/src',
];
const counts = (path) => !/\.spec\.ts$|node_modules/.test(path);

/** The page for a server to serve: that of `JENTRIX_PAGE`, or the one that was built last. */
export const builtPage = () => process.env.JENTRIX_PAGE ?? join(PAGES, existsSync(CURRENT) ? readFileSync(CURRENT, 'utf8') : 'none', 'browser');

/** Builds the page where its sources have changed. */
export async function ensurePage() {
  const state = stateOf(SOURCES, counts);
  const folder = join(PAGES, state);
  if (existsSync(folder) && existsSync(CURRENT) && readFileSync(CURRENT, 'utf8') === state) return;
  try {
    if (!existsSync(folder)) await step('The page', 'a minute', () => inWhole(folder, build));
  } catch (error) {
    fail(error.message);
  }
  writeFileSync(CURRENT, state);
  tidy(folder);
}

async function build(folder) {
  const options = { outputPath: folder, progress: false, statsJson: true };
  // The driver may still be compiled, which takes longest.
  await quietly(process.execPath, ['scripts/angular.mjs', 'web:build', JSON.stringify(options)], { yields: true });
  writeEarly(folder);
  const page = join(folder, 'browser');
  await writeHelp(page);
  writeShell(page);
  await writeServiceWorker(page);
  await compress(filesIn(page));
}

/** Files that are smaller compressed; fonts of the page and pictures are already. */
const COMPRESSIBLE = /\.(js|css|wasm|svg|json|ttf)$/;
/** The ending of compressed files. */
const COMPRESSED = '.br';

const filesIn = (folder) => readdirSync(folder, { recursive: true }).map((name) => join(folder, name));

/** Puts a Brotli file beside each file, at the highest quality: it is sent a thousand times as often as it is made. */
async function compress(files) {
  const shrink = promisify(brotliCompress);
  const old = (file) => (statSync(file + COMPRESSED, { throwIfNoEntry: false })?.mtimeMs ?? 0) < statSync(file).mtimeMs;
  const wanted = files.filter((file) => COMPRESSIBLE.test(file) && old(file));
  await Promise.all(
    wanted.map(async (file) => {
      const bytes = readFileSync(file);
      writeFileSync(file + COMPRESSED, await shrink(bytes, { params: { [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } }));
    }),
  );
}

/** Compresses the shipped faces; where they are not yet, they are sent as they are. */
export const compressFaces = () => compress(filesIn(join(root, 'faces')));

const HELP_FONTS = ['source-sans-3-regular.woff2', 'source-sans-3-semibold.woff2'];

/** Writes the pages of docs/using, which the page links to, as HTML with the pictures they show. */
async function writeHelp(page) {
  const { marked } = await import('marked');
  const [from, to] = [join(root, 'docs/using'), join(page, 'help')];
  mkdirSync(to, { recursive: true });
  const { compile } = await import('sass');
  writeFileSync(join(to, 'help.css'), compile(join(root, 'web/help.scss')).css);
  copyFileSync(join(root, 'web/help.js'), join(to, 'help.js'));
  for (const font of HELP_FONTS) copyFileSync(join(root, 'web/src/fonts', font), join(to, font));
  // The pages come one after the other as the first of them lists them.
  const order = [...readFileSync(join(from, 'README.md'), 'utf8').matchAll(/\]\(([\w-]+)\.md\)/g)].map(([, name]) => name);
  const texts = new Map(['README', ...order].map((name) => [name, readFileSync(join(from, `${name}.md`), 'utf8')]));
  const titleOf = (name) => /^# (.*)$/m.exec(texts.get(name) ?? '')?.[1] ?? 'Jentrix';
  for (const [name, text] of texts) {
    for (const [, picture] of text.matchAll(/\(\.\.\/screenshots\/([\w-]+\.png)\)/g)) {
      // Pictures are taken from a page that was built before.
      if (existsSync(join(root, 'docs/screenshots', picture))) copyFileSync(join(root, 'docs/screenshots', picture), join(to, picture));
    }
    // What leads out of these pages is told, and leads nowhere here.
    const here = text
      .replace(/\]\(\.\.\/screenshots\//g, '](')
      .replace(/(?<!!)\[([^\]]+)\]\(\.\.[^)]*\)/g, '$1')
      .replace(/ \(how\)/g, '')
      .replace(/\]\(([\w-]+)\.md\)/g, ']($1.html)');
    const at = order.indexOf(name);
    const link = (other, says) => (other ? `<a href="${other}.html">${says} ${titleOf(other)}</a>` : '<span></span>');
    const beside = at < 0 ? '' : `<nav class="beside" aria-label="Help pages">${link(order[at - 1], '←')}${link(order[at + 1], '→')}</nav>`;
    const head = `<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${titleOf(name)} · Jentrix</title><link rel="stylesheet" href="help.css"><script src="help.js"></script>`;
    const header = `<header><a class="name" href="/">Jentrix</a><nav aria-label="Places"><a href="/">Shelf</a><a href="/type-case">Type case</a><a href="/recipes">Recipes</a><a href="/drill">Drill</a><a href="README.html"${at < 0 ? ' aria-current="page"' : ''}>Help</a></nav><a id="back" href="/">Back</a></header>`;
    writeFileSync(
      join(to, `${name}.html`),
      `<!doctype html><html lang="en"><head>${head}</head><body>${header}<main>${marked.parse(here)}${beside}</main></body></html>\n`,
    );
  }
}

/** The source an address leads to: the page, and the worker it cannot do without. */
const NEEDS = { '/jobs/': { page: 'web/src/app/bench/bench.page.ts', worker: 'web/src/app/engine/engine.worker.ts' } };

/** Writes, for the server, what an address will need besides the scripts of every page, so that it is fetched from the beginning. */
function writeEarly(folder) {
  const stats = join(folder, 'stats.json');
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
  const early = Object.entries(NEEDS).map(([address, { page, worker }]) => [
    address,
    { scripts: [...withImports(entry(page))].filter((name) => !common.has(name)), worker: entry(worker) },
  ]);
  writeFileSync(join(folder, 'early.json'), JSON.stringify(Object.fromEntries(early)));
}

/**
 * Writes the page as it is kept for when there is no server: the same bytes for everybody, so its nonce is the build's and stands for
 * style elements only (`server/src/http/page.ts`).
 */
function writeShell(page) {
  const nonce = createHash('sha256')
    .update(readFileSync(join(page, 'index.html')))
    .digest('base64url')
    .slice(0, 22);
  writeFileSync(join(page, 'shell.html'), readFileSync(join(page, 'index.html'), 'utf8').replaceAll('CSP_NONCE', nonce));
}

/** Writes what the service worker keeps (`web/ngsw-config.json`) and puts the worker beside it. */
async function writeServiceWorker(page) {
  await quietly(process.execPath, ['node_modules/@angular/service-worker/ngsw-config.js', relative(root, page), 'web/ngsw-config.json']);
  copyFileSync(join(root, 'node_modules/@angular/service-worker/ngsw-worker.js'), join(page, 'ngsw-worker.js'));
}
