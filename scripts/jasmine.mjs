// Runs the Jasmine specs of one workspace in Node: node --import tsx scripts/jasmine.mjs WORKSPACE [--only WORDS] [SPEC FILE …]
// Ends on one line, "N passed, N failed", and exits 1 when anything failed or nothing ran.
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import Jasmine from 'jasmine';
import { tell } from './told.mjs';

const { values, positionals } = parseArgs({ options: { only: { type: 'string' } }, allowPositionals: true });
const [workspace = '.', ...files] = positionals;
const runner = new Jasmine({ projectBaseDir: resolve(workspace) });
runner.loadConfig({
  spec_dir: 'src',
  spec_files: files.length > 0 ? files : ['**/*.spec.ts'],
  random: true,
  jsLoader: 'import',
  // Elsewhere a spec may consist of supertest's own expectations.
  env: { failSpecWithNoExpectations: workspace !== 'server', stopSpecOnExpectationFailure: true },
});
// Nothing here says how fast anything is: a machine may have a slow minute.
jasmine.DEFAULT_TIMEOUT_INTERVAL = workspace === 'e2e' ? 300_000 : 120_000;

let passed = 0;
let failed = 0;
runner.addReporter({
  specDone({ status, fullName, duration, failedExpectations }) {
    if (status === 'passed') passed++;
    if (status === 'failed') failed++;
    tell({ spec: fullName, seconds: (duration ?? 0) / 1000, failure: status === 'failed' ? (failedExpectations[0]?.message ?? 'no reason') : undefined });
  },
});
runner.exitOnCompletion = false;
const outcome = await runner.execute(undefined, values.only);
console.log(`${passed} passed, ${failed} failed`);
process.exit(outcome.overallStatus === 'passed' && passed > 0 ? 0 : 1);
