/**
 * The programs: command, server, their threads and processes, and the benchmarks, bundled into `dist/programs`, one folder for each state
 * of their sources. A bundle takes a second or two. What a process begins with is what it ends with: those that it starts are of the same folder.
 */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { isBuiltin } from 'node:module';
import { join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { inWhole, root, tidy, use } from './steps.mjs';

/** The sets that are bundled together: what programs, threads and processes begin with, and where their sources are. */
const SETS = {
  programs: {
    entries: [
      'command/src/main.ts',
      'command/src/help.ts',
      'command/src/bulk/refine-worker.ts',
      'server/src/main.ts',
      'server/src/child.ts',
      'server/src/backups/by-hand.ts',
    ],
    sources: ['core/src', 'command/src', 'server/src'],
  },
  bench: { entries: ['bench/src/main.ts'], sources: ['core/src', 'command/src', 'server/src', 'e2e/src', 'bench/src'] },
};
const HELP = 'help.json';

/** Names the folder of a set, for this process and all that it starts. */
const place = (set) => `JENTRIX_${set.toUpperCase()}`;

/** By size and time of each file: quick, since every start asks for it. */
function state(set) {
  const hash = createHash('sha256').update(`${process.version} ${root}`);
  const add = (path) => {
    const { size, mtimeMs } = statSync(path);
    hash.update(`${relative(root, path)} ${size} ${mtimeMs}\n`);
  };
  for (const folder of SETS[set].sources) {
    for (const entry of readdirSync(join(root, folder), { recursive: true, withFileTypes: true })) {
      if (entry.isFile() && entry.name.endsWith('.ts') && !entry.name.endsWith('.spec.ts')) add(join(entry.parentPath, entry.name));
    }
  }
  for (const path of ['package-lock.json', 'tsconfig.base.json', 'scripts/programs.mjs']) add(join(root, path));
  return hash.digest('hex').slice(0, 20);
}

/** Files that lie beside a source are found from there, wherever the bundle lies. */
const atHome = {
  name: 'at-home',
  setup: ({ onLoad }) =>
    onLoad({ filter: /\.ts$/ }, ({ path }) => ({
      contents: readFileSync(path, 'utf8').replaceAll('import.meta.url', JSON.stringify(pathToFileURL(path).href)),
      loader: 'ts',
    })),
};

/** Packages of many small modules, each of which would take its time to be found and read: they are bundled, with what they need themselves. */
const INSIDE = ['@cto.af', '@jentrix', 'bidi-js', 'compression', 'culori', 'express', 'fast-diff', 'fflate', 'transformation-matrix', 'typeorm', 'zod'];

/** They need these too, but a binary is found from where its package lies. */
const NATIVE = ['better-sqlite3'];

const packagesOutside = {
  name: 'packages-outside',
  setup: ({ onResolve }) =>
    onResolve({ filter: /^[^./]/ }, ({ path, kind, importer }) => {
      if (kind === 'entry-point' || isBuiltin(path)) return undefined;
      const isNeeded =
        importer.includes('/node_modules/') &&
        !NATIVE.includes(path) &&
        existsSync(
          join(
            root,
            'node_modules',
            path
              .split('/')
              .slice(0, path.startsWith('@') ? 2 : 1)
              .join('/'),
          ),
        );
      const isInside = INSIDE.includes(path.split('/')[0]) || isNeeded;
      return isInside ? undefined : { path, external: true };
    }),
};

/** Packages of the older kind ask for what isn't bundled in their own way. */
const REQUIRE = "import { createRequire as jentrixRequire } from 'node:module'; const require = jentrixRequire(import.meta.url);";

const fileOf = (entry) => entry.replace(/\.ts$/, '.js');
const moduleOf = (folder, entry) => import(pathToFileURL(join(folder, fileOf(entry))).href);

async function bundle(set, folder) {
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: root,
    entryPoints: SETS[set].entries,
    outdir: folder,
    outbase: '.',
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    sourcesContent: false,
    plugins: [packagesOutside, atHome],
    banner: { js: REQUIRE },
    minifyWhitespace: true,
    minifySyntax: true,
    logLevel: 'error',
  });
  if (set !== 'programs') return;
  const { helpTexts } = await moduleOf(folder, 'command/src/help.ts');
  writeFileSync(join(folder, HELP), JSON.stringify(await helpTexts()));
}

/** Bundles a set where its sources have changed. @returns its folder */
export async function ensurePrograms(set = 'programs') {
  const folder = join(root, 'dist', set, state(set));
  if (existsSync(folder)) return folder;
  try {
    mkdirSync(join(folder, '..'), { recursive: true });
    await inWhole(folder, (part) => bundle(set, part));
    tidy(folder);
    return folder;
  } catch (error) {
    if (!['EACCES', 'EPERM', 'EROFS'].includes(error.code)) throw error;
    throw new Error(
      `The sources have changed since they were built, and “${join(root, 'dist')}” can’t be written. Run “npm run build” as whoever installed them.`,
      { cause: error },
    );
  }
}

/** The folder that this process runs from. */
async function folderOf(set) {
  return (process.env[place(set)] ??= await ensurePrograms(set));
}

/**
 * The module of a source that programs begin with.
 * @param entry its path from the root. @param stays true for what runs for long
 */
export async function load(entry, { stays = false } = {}) {
  const set = Object.keys(SETS).find((name) => SETS[name].entries.includes(entry));
  const folder = await folderOf(set);
  if (stays) use(folder);
  return moduleOf(folder, entry);
}

/** A help text of the command as it was when it was built. @param name a command; all of them where none is named */
export const helpOf = (name) => JSON.parse(readFileSync(join(process.env[place('programs')], HELP), 'utf8'))[name ?? ''];
