// npm test: everything; the last line is "N passed, N failed". Names of steps as arguments run only those. With --long (npm run test:long) it runs
// the specs that have a size (`sized` in core/src/testing.ts), and those in full.
// Steps are cut into parts, which processes of their own work off, a few at a time, the long ones first.
import { spawn } from 'node:child_process';
import { readFileSync, readdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { ensureChromium, ensureInstalled, ensureReaders } from './install.mjs';
import { ensureBuilt } from './ready.mjs';
import { seeded } from './seeded.mjs';
import { root } from './steps.mjs';
import { toldIn } from './told.mjs';

const asked = process.argv.slice(2);
const wanted = asked.filter((name) => name !== '--long');
const isLong = wanted.length < asked.length;
if (isLong) process.env.JENTRIX_LONG = '1';

/** As many parts at a time: the browsers and servers of two journeys keep two processors busy. */
const SLOTS = availableParallelism();
/** How many spec files of a workspace are run by one process; journeys each have theirs. */
const FILES_A_PART = { core: 30, command: 30, server: 15, e2e: 1 };

/** The spec files of a workspace in parts of about as much work: the first with most of it. */
function partsOf(workspace) {
  const folder = join(root, workspace, 'src');
  const read = (file) => readFileSync(join(folder, file), 'utf8');
  const files = readdirSync(folder, { recursive: true }).filter((name) => name.endsWith('.spec.ts') && (!isLong || read(name).includes('sized(')));
  // A spec with a time limit of its own is a long one.
  const weight = (text) => text.split(/\n\s+it\(/).length + 4 * (text.match(/\d_000\b/g) ?? []).length;
  const sorted = files.map((file) => ({ file, specs: weight(read(file)) })).sort((a, b) => b.specs - a.specs);
  const parts = Array.from({ length: Math.ceil(files.length / FILES_A_PART[workspace]) }, () => ({ files: [], specs: 0 }));
  for (const { file, specs } of sorted) {
    const [least] = [...parts].sort((a, b) => a.specs - b.specs);
    least.files.push(file);
    least.specs += specs;
  }
  return parts;
}

const specs = (name, workspace, more = {}) => ({
  name,
  parts: partsOf(workspace).map(({ files }) => [process.execPath, '--import', 'tsx', 'scripts/jasmine.mjs', workspace, ...files]),
  counts: true,
  ...more,
});
/** Steps that count their own tests end on "N passed, N failed"; the others are one test each. */
const STEPS = [
  { name: 'lint', parts: [['npm', 'run', '--silent', 'lint']] },
  { name: 'web', parts: [[process.execPath, 'scripts/angular.mjs', 'web:test', '{"watch":false,"progress":false}']], counts: true },
  { name: 'types', parts: [['npm', 'run', '--silent', 'types']] },
  specs('core', 'core'),
  specs('server', 'server'),
  specs('command', 'command'),
  specs('journeys', 'e2e', { page: true }),
];

const COUNT = /^(\d+) passed, (\d+) failed$/;
/** Of all steps: what failed, told once more at the very end, where a log that is cut still shows it, and how long each spec took. */
const broken = [];
const times = [];

/** Runs a part of a step. @returns what it printed and counted */
function run([command, ...args]) {
  return new Promise((done) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, JENTRIX_TOLD: '1' } });
    const said = [];
    let counted;
    let rest = '';
    const take = (line) => {
      const told = toldIn(line);
      const count = COUNT.exec(line.trim());
      if (told) {
        times.push(told);
        if (told.failure !== undefined) broken.push(`FAILED ${told.spec}: ${told.failure}`.slice(0, 2000));
      } else if (count) counted = { passed: Number(count[1]), failed: Number(count[2]) };
      else said.push(line);
    };
    const read = (chunk) => {
      const lines = (rest + chunk.toString()).split('\n');
      rest = lines.pop() ?? '';
      lines.forEach(take);
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.on('close', (code) => {
      take(rest);
      done({ code, counted, said: said.filter((line) => line.trim() !== '') });
    });
  });
}

await ensureInstalled({ everything: true });
ensureChromium();
ensureReaders();

const unknown = wanted.filter((name) => !STEPS.some((step) => step.name === name));
if (unknown.length > 0) {
  console.error(`There is no step “${unknown.join(', ')}”; there are ${STEPS.map(({ name }) => name).join(', ')}.`);
  process.exit(2);
}

const taken = STEPS.filter(
  ({ name, parts }) =>
    (wanted.length === 0 || wanted.includes(name)) && (!isLong || (name !== 'web' && parts.some((part) => part.includes('scripts/jasmine.mjs')))),
).map((step) => ({ ...step, passed: 0, failed: 0, seconds: 0 }));
const start = Date.now();
// Whoever needs it waits for it; the others have begun.
const built = taken.some(({ page }) => page) ? makeSeeded() : Promise.resolve();

async function makeSeeded() {
  await ensureBuilt({ everything: true });
  process.env.JENTRIX_SEEDED = await seeded();
}

async function take({ step, part }) {
  if (step.page) await built;
  const began = Date.now();
  const { code, counted, said } = await run(part);
  const seconds = (Date.now() - began) / 1000;
  const { passed, failed } = step.counts && counted ? counted : { passed: code === 0 && !step.counts ? 1 : 0, failed: code === 0 && !step.counts ? 0 : 1 };
  const missed = code !== 0 && failed === 0 ? 1 : failed;
  if (missed > 0 && (!step.counts || failed === 0)) broken.push(`FAILED ${step.name}: ${part.slice(1).join(' ')}`.slice(0, 300));
  step.passed += passed;
  step.failed += missed;
  step.seconds += seconds;
  const of = step.parts.length > 1 ? ` ${part.slice(4).slice(0, 3).join(' ')}${part.length > 7 ? ' …' : ''}` : '';
  console.log(`== ${step.name}${of}: ${passed} passed and ${missed} failed in ${Math.round(seconds)} s`);
  if (missed > 0 || said.length < 30) console.log(said.join('\n'));
}

const queue = taken.flatMap((step) => step.parts.map((part) => ({ step, part })));
await Promise.all(
  Array.from({ length: SLOTS }, async () => {
    for (let next = queue.shift(); next; next = queue.shift()) await take(next);
  }),
);

console.log('\nThe ten slowest specs:');
for (const { spec, seconds } of times.sort((a, b) => b.seconds - a.seconds).slice(0, 10)) console.log(`${seconds.toFixed(1)} s: ${spec}`);
console.log(`\n${Math.round((Date.now() - start) / 1000)} s in all; what each step’s processes took together:`);
for (const { name, seconds, passed, failed } of taken) console.log(`${name}: ${Math.round(seconds)} s, ${passed} passed, ${failed} failed`);
if (broken.length > 0) console.log(`\n${broken.join('\n')}`);
const [passed, failed] = [taken.reduce((sum, step) => sum + step.passed, 0), taken.reduce((sum, step) => sum + step.failed, 0)];
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
