// npm test: everything, in order; the last line is "N passed, N failed". Names of steps as arguments run only those.
import { spawn } from 'node:child_process';
import { ensureChromium, ensurePackages, ensurePage, root } from './setup.mjs';

const node = (...args) => [process.execPath, '--import', 'tsx', ...args];
/** Steps that count their own tests end on "N passed, N failed"; the others are one test each. */
const STEPS = [
  { name: 'lint', command: ['npm', 'run', '--silent', 'lint'] },
  { name: 'types', command: ['npm', 'run', '--silent', 'types'] },
  { name: 'core', command: node('scripts/jasmine.mjs', 'core'), counts: true },
  { name: 'server', command: node('scripts/jasmine.mjs', 'server'), counts: true },
  { name: 'web', command: ['npx', 'ng', 'test', '--watch=false', '--progress=false'], counts: true },
  { name: 'journeys', command: node('scripts/jasmine.mjs', 'e2e'), counts: true, page: true },
];

const COUNT = /^(\d+) passed, (\d+) failed$/;

function run([command, ...args]) {
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
        else console.log(line);
      }
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.on('close', (code) => {
      if (rest) console.log(rest);
      done({ code, counted: last });
    });
  });
}

ensurePackages();
ensureChromium();

const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !STEPS.some((step) => step.name === name));
if (unknown.length > 0) {
  console.error(`There is no step “${unknown.join(', ')}”; there are ${STEPS.map(({ name }) => name).join(', ')}.`);
  process.exit(2);
}

let passed = 0;
let failed = 0;
for (const step of STEPS) {
  if (wanted.length > 0 && !wanted.includes(step.name)) continue;
  if (step.page) ensurePage();
  console.log(`\n== ${step.name}`);
  const started = Date.now();
  const { code, counted } = await run(step.command);
  const result = step.counts && counted ? { ...counted } : { passed: code === 0 && !step.counts ? 1 : 0, failed: code === 0 && !step.counts ? 0 : 1 };
  if (code !== 0 && result.failed === 0) result.failed = 1;
  passed += result.passed;
  failed += result.failed;
  console.log(`== ${step.name}: ${result.passed} passed and ${result.failed} failed in ${Math.round((Date.now() - started) / 1000)} s`);
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
