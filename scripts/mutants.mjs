// npm run mutants -- PLACE …: makes one small fault at a time in a folder of core (or in one file) and counts those that its own specs notice.
// What survived is told line by line; the whole report stands in dist/mutants.
import { existsSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Stryker } from '@stryker-mutator/core';
import { ensureInstalled } from './install.mjs';
import { fail, root } from './steps.mjs';

const SOURCES = join(root, 'core/src');
const OUT = join(root, 'dist/mutants');

await ensureInstalled({ everything: true });
const places = process.argv.slice(2);
if (places.length === 0) fail('Name one or more folders of core/src, or files in them: npm run mutants -- setting fitting/levers.ts');
for (const place of places) if (!existsSync(join(SOURCES, place))) fail(`There is no core/src/${place}.`);

const isSource = (name) => name.endsWith('.ts') && !name.endsWith('.spec.ts') && !name.includes('testing');

/** The specs of a folder, the short files first: what they notice needs no long one. */
const specsOf = (folder) =>
  readdirSync(join(SOURCES, folder), { recursive: true })
    .filter((name) => name.endsWith('.spec.ts'))
    .sort((a, b) => statSync(join(SOURCES, folder, a)).size - statSync(join(SOURCES, folder, b)).size)
    .map((name) => `${folder}/${name}`);

/** Mutates a place and runs the specs of its folder. @returns the counts of what became of the mutants */
async function mutate(place) {
  const folder = place.split('/')[0];
  const files = statSync(join(SOURCES, place)).isDirectory()
    ? readdirSync(join(SOURCES, place), { recursive: true })
        .filter(isSource)
        .map((name) => `${place}/${name}`)
    : [place];
  const name = place.replaceAll('/', '-');
  mkdirSync(OUT, { recursive: true });
  const jasmineConfigFile = join(OUT, `${name}.jasmine.json`);
  writeFileSync(jasmineConfigFile, JSON.stringify({ spec_dir: 'core/src', spec_files: specsOf(folder), jsLoader: 'import' }));
  const results = await new Stryker({
    mutate: files.map((file) => `core/src/${file}`),
    ignorePatterns: ['/dist', '/web', '/docs', '/e2e', '/bench', '/server', '/command'],
    testRunner: 'jasmine',
    plugins: ['@stryker-mutator/jasmine-runner'],
    jasmineConfigFile,
    testRunnerNodeArgs: ['--import', 'tsx'],
    coverageAnalysis: 'perTest',
    // They hold tables and constants, each of which would want a process of its own.
    ignoreStatic: true,
    disableTypeChecks: false,
    allowEmpty: false,
    reporters: ['json', 'progress-append-only'],
    jsonReporter: { fileName: join(OUT, `${name}.json`) },
    tempDirName: join('dist', 'mutants', 'tmp'),
    logLevel: 'warn',
    allowConsoleColors: false,
  }).runMutationTest();
  return results;
}

for (const place of places) {
  const results = await mutate(place);
  const counts = new Map();
  for (const { status } of results) counts.set(status, (counts.get(status) ?? 0) + 1);
  const count = (...statuses) => statuses.reduce((sum, status) => sum + (counts.get(status) ?? 0), 0);
  const noticed = count('Killed', 'Timeout');
  const all = noticed + count('Survived', 'NoCoverage');
  for (const { status, fileName, location, replacement, mutatorName } of results) {
    if (status !== 'Survived' && status !== 'NoCoverage') continue;
    const at = `${fileName.slice(root.length + 1)}:${location.start.line + 1}:${location.start.column + 1}`;
    console.log(`${at} ${mutatorName} -> ${replacement.replaceAll(/\s+/g, ' ').slice(0, 100)}${status === 'NoCoverage' ? ' (no spec comes here)' : ''}`);
  }
  console.log(
    `${place}: ${((100 * noticed) / all).toFixed(1)} % of ${all} noticed; ${count('Ignored')} in constants left out, ${count('CompileError', 'RuntimeError')} broke`,
  );
}
