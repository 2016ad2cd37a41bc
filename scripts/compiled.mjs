/**
 * Runs the TypeScript of command, server and benchmarks without compiling each file at every start: what programs begin with is bundled
 * once, which takes a few seconds, and again when a source has changed. Most packages of npm stay outside and are resolved as ever.
 */
import { createHash, randomUUID } from 'node:crypto';
import { accessSync, constants, existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
/** One folder for each state of the sources. */
const CACHE = join(root, 'node_modules/.cache/jentrix');
const SOURCES = ['core/src', 'server/src', 'bench/src', 'e2e/src'];
/** What programs, threads and processes begin with. */
const ENTRIES = [
  'core/src/cli/main.ts',
  'core/src/cli/bulk/refine-worker.ts',
  'server/src/main.ts',
  'server/src/pool/child.ts',
  'server/src/backups/by-hand.ts',
  'bench/src/main.ts',
];
/** Bundles that nobody can be running any more, in milliseconds. */
const OLD = 24 * 60 * 60 * 1000;

/** A hash over what the bundles are made from, by size and time of each file: quick, since every start asks for it. */
function state() {
  const hash = createHash('sha256').update(`${process.version} ${root}`);
  const add = (path) => {
    const { size, mtimeMs } = statSync(path);
    hash.update(`${relative(root, path)} ${size} ${mtimeMs}\n`);
  };
  for (const folder of SOURCES) {
    for (const entry of readdirSync(join(root, folder), { recursive: true, withFileTypes: true })) {
      if (entry.isFile() && entry.name.endsWith('.ts') && !entry.name.endsWith('.spec.ts')) add(join(entry.parentPath, entry.name));
    }
  }
  for (const path of ['package-lock.json', 'tsconfig.base.json', 'scripts/compiled.mjs']) add(join(root, path));
  return hash.digest('hex').slice(0, 20);
}

/** Files that lie beside a source are found from there, wherever the bundle lies. */
const atHome = (text, path) => text.replaceAll('import.meta.url', JSON.stringify(pathToFileURL(path).href));

/**
 * `{ ...a, b }` as `Object.assign({}, a, { b })`. It means the same, and Node 20 takes microseconds for every member that follows a
 * spread at the beginning (V8 11.3; refining a folder took twice as long), where later ones and browsers take nanoseconds.
 */
function withoutLeadingSpreads(ts, text, path) {
  const edits = [];
  const visit = (node) => {
    ts.forEachChild(node, visit);
    if (!ts.isObjectLiteralExpression(node) || node.properties.length < 2) return;
    const { properties } = node;
    const isSpread = (at) => properties[at] !== undefined && ts.isSpreadAssignment(properties[at]);
    if (!isSpread(0) || properties.some((one) => ts.isAccessor(one))) return;
    edits.push({ from: node.getStart(source), to: node.getStart(source) + 1, text: 'Object.assign({}, ' }, { from: node.end - 1, to: node.end, text: ')' });
    properties.forEach((one, i) => {
      const from = one.getStart(source);
      if (isSpread(i)) edits.push({ from, to: from + '...'.length, text: '' });
      else {
        if (isSpread(i - 1)) edits.push({ from, to: from, text: '{' });
        if (i === properties.length - 1 || isSpread(i + 1)) edits.push({ from: one.end, to: one.end, text: '}' });
      }
    });
  };
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest);
  visit(source);
  return edits.sort((a, b) => b.from - a.from).reduce((now, edit) => now.slice(0, edit.from) + edit.text + now.slice(edit.to), text);
}

const ourSources = {
  name: 'our-sources',
  async setup({ onLoad }) {
    const { default: ts } = await import('typescript');
    onLoad({ filter: /\.ts$/ }, ({ path }) => {
      const text = readFileSync(path, 'utf8');
      return { contents: withoutLeadingSpreads(ts, atHome(text, path), path), loader: 'ts' };
    });
  },
};

/** Packages of many small modules, each of which would take its time to be found and read. */
const INSIDE = ['@jentrix', 'culori', 'transformation-matrix', 'zod'];

const packagesOutside = {
  name: 'packages-outside',
  setup: ({ onResolve }) =>
    onResolve({ filter: /^[^./]/ }, ({ path, kind }) => {
      const isInside = kind === 'entry-point' || INSIDE.includes(path.split('/')[0]);
      return isInside ? undefined : { path, external: true };
    }),
};

async function bundle(folder) {
  const { build } = await import('esbuild');
  // Whoever looks meanwhile finds all of it or nothing.
  const part = `${folder}.${randomUUID()}`;
  await build({
    absWorkingDir: root,
    entryPoints: ENTRIES,
    outdir: part,
    outbase: '.',
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    sourcesContent: false,
    plugins: [packagesOutside, ourSources],
    logLevel: 'error',
  });
  try {
    renameSync(part, folder);
  } catch (error) {
    // Another process was quicker.
    rmSync(part, { recursive: true });
    if (!existsSync(folder)) throw error;
  }
  for (const name of readdirSync(CACHE)) {
    const path = join(CACHE, name);
    // Others may be tidying up as well.
    const made = statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? Date.now();
    if (Date.now() - made > OLD) rmSync(path, { recursive: true, force: true });
  }
}

/** False where the packages were installed by somebody else, who does not let us write there. */
function canKeep() {
  try {
    mkdirSync(CACHE, { recursive: true });
    accessSync(CACHE, constants.W_OK);
    return true;
  } catch {
    return false;
  }
}

/**
 * The module of a source that programs begin with. Where bundles can't be kept, its sources are compiled as they are met, which is slow.
 * @param entry its path from the root, one of `ENTRIES`
 */
export async function load(entry) {
  const folder = join(CACHE, state());
  if (!existsSync(folder)) {
    if (!canKeep()) {
      const { register } = await import('tsx/esm/api');
      register();
      return import(pathToFileURL(join(root, entry)).href);
    }
    await bundle(folder);
  }
  return import(pathToFileURL(join(folder, entry.replace(/\.ts$/, '.js'))).href);
}
