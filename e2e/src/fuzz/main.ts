/** npm run fuzz -- COUNT [SEED]: any number of hostile inputs; a failing one is kept as a file. */
import { writeFileSync } from 'node:fs';
import { FuzzError, fuzz } from './fuzz';

const [count = '2000', seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
console.log(`Seed ${seed}.`);
try {
  await fuzz(Number(seed), Number(count), (line) => console.log(line));
  console.log('Nothing broke.');
} catch (error) {
  if (!(error instanceof FuzzError)) throw error;
  const file = `fuzz-${error.seed}-${error.index}.json`;
  writeFileSync(
    file,
    JSON.stringify(error.input, (_, value: unknown) => (value instanceof Uint8Array ? Buffer.from(value).toString('base64') : value), 1),
  );
  console.error(`${error.message}\nThe input is kept in ${file}.`);
  process.exitCode = 1;
}
