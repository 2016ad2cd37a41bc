// Runs the Jasmine specs of one workspace in Node: node --import tsx scripts/jasmine.mjs WORKSPACE [FILTER]
// Ends on one line, "N passed, N failed", and exits 1 when anything failed or nothing ran.
import { resolve } from 'node:path';
import Jasmine from 'jasmine';

const [workspace = '.', filter] = process.argv.slice(2);
const runner = new Jasmine({ projectBaseDir: resolve(workspace) });
runner.loadConfig({
  spec_dir: 'src',
  spec_files: ['**/*.spec.ts'],
  random: true,
  jsLoader: 'import',
  // Elsewhere a spec may consist of supertest's own expectations.
  env: { failSpecWithNoExpectations: workspace === 'core', stopSpecOnExpectationFailure: true },
});
// Nothing here says how fast anything is: a machine may have a slow minute.
jasmine.DEFAULT_TIMEOUT_INTERVAL = workspace === 'e2e' ? 180_000 : 60_000;

let passed = 0;
let failed = 0;
const slow = [];
const broken = [];
runner.addReporter({
  specDone(result) {
    if (result.status === 'passed') passed++;
    if (result.status === 'failed') {
      failed++;
      broken.push(`FAILED ${result.fullName}: ${result.failedExpectations[0]?.message ?? 'no reason'}`);
    }
    if (result.duration > 5000) slow.push(result);
  },
});
runner.exitOnCompletion = false;
const outcome = await runner.execute(undefined, filter);
for (const { duration, fullName } of slow.sort((a, b) => b.duration - a.duration)) console.log(`${(duration / 1000).toFixed(1)} s: ${fullName}`);
for (const line of broken) console.log(line.slice(0, 2000));
console.log(`${passed} passed, ${failed} failed`);
process.exit(outcome.overallStatus === 'passed' && passed > 0 ? 0 : 1);
