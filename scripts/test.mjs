// npm test: everything; the last line is "N passed, N failed". Names of steps as arguments run only those.
// The steps that only read run beside the others, their output kept until those are through.
import { spawn } from 'node:child_process';
import { ensureChromium, ensureInstalled, ensureReaders } from './install.mjs';
import { ensureBuilt } from './ready.mjs';
import { root } from './steps.mjs';

const node = (...args) => [process.execPath, '--import', 'tsx', ...args];
/** Steps that count their own tests end on "N passed, N failed"; the others are one test each. */
const STEPS = [
  { name: 'lint', command: ['npm', 'run', '--silent', 'lint'], beside: true },
  { name: 'types', command: ['npm', 'run', '--silent', 'types'], beside: true },
  { name: 'core', command: node('scripts/jasmine.mjs', 'core'), counts: true },
  { name: 'command', command: node('scripts/jasmine.mjs', 'command'), counts: true },
  { name: 'server', command: node('scripts/jasmine.mjs', 'server'), counts: true },
  { name: 'web', command: [process.execPath, 'scripts/angular.mjs', 'web:test', '{"watch":false,"progress":false}'], counts: true },
  { name: 'journeys', command: node('scripts/jasmine.mjs', 'e2e'), counts: true, page: true },
];

/** What failed, told once more at the very end, where a log that is cut still shows it. */
const broken = [];

const COUNT = /^(\d+) passed, (\d+) failed$/;

function run([command, ...args], say) {
  return new Promise((done) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'], env: process.env });
    let last;
    let rest = '';
    const read = (chunk) => {
      rest += chunk.toString();
      const lines = rest.split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) {
        const match = COUNT.exec(line.trim());
        if (match) last = { passed: Number(match[1]), failed: Number(match[2]) };
        else {
          if (line.startsWith('FAILED ')) broken.push(line);
          say(line);
        }
      }
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.on('close', (code) => {
      if (rest) say(rest);
      done({ code, counted: last });
    });
  });
}

await ensureInstalled({ everything: true });
ensureChromium();
ensureReaders();

const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !STEPS.some((step) => step.name === name));
if (unknown.length > 0) {
  console.error(`There is no step “${unknown.join(', ')}”; there are ${STEPS.map(({ name }) => name).join(', ')}.`);
  process.exit(2);
}

let passed = 0;
let failed = 0;
async function take(step, say) {
  say(`\n== ${step.name}`);
  const started = Date.now();
  const { code, counted } = await run(step.command, say);
  const result = step.counts && counted ? { ...counted } : { passed: code === 0 && !step.counts ? 1 : 0, failed: code === 0 && !step.counts ? 0 : 1 };
  if (code !== 0 && result.failed === 0) result.failed = 1;
  passed += result.passed;
  failed += result.failed;
  if (result.failed > 0 && !step.counts) broken.push(`FAILED ${step.name}`);
  say(`== ${step.name}: ${result.passed} passed and ${result.failed} failed in ${Math.round((Date.now() - started) / 1000)} s`);
}

const taken = STEPS.filter((step) => wanted.length === 0 || wanted.includes(step.name));
const beside = taken
  .filter((step) => step.beside)
  .map(async (step) => {
    const kept = [];
    await take(step, (line) => kept.push(line));
    return kept;
  });
for (const step of taken.filter((one) => !one.beside)) {
  if (step.page) await ensureBuilt({ everything: true });
  await take(step, (line) => console.log(line));
}
for (const kept of beside) for (const line of await kept) console.log(line);
if (broken.length > 0) console.log(`\n${broken.join('\n')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
