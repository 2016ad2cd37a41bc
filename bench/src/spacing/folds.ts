/** Models that were fitted without some families, to be asked about those. They are kept, since fitting them takes many minutes. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { root } from '@jentrix/e2e/harness';
import type { Samples } from './data';
import { FAMILIES } from './families';
import type { TrainingPool } from './pool';
import { precedentsOf } from './precedents';
import { type Model, fitNetworks } from './train';

export const FOLDS = 12;
const KEPT_IN = join(root, 'dist/folds');
/** Sources that networks and precedents depend on, beside the samples. */
const NETWORKS = ['bench/src/spacing/network.ts', 'bench/src/spacing/train.ts'];
const PRECEDENTS = ['bench/src/spacing/precedents.ts', 'core/src/spacing/precedent.ts'];

export interface Fold {
  /** The families that the model has not seen. */
  held: readonly string[];
  model: Model;
}

/** The model of every fold: each family is held out of one. Training goes on on all cores. */
export async function foldsOf(samples: readonly Samples[], pool: TrainingPool): Promise<Fold[]> {
  const measured = createHash('sha256');
  for (const { font, set, pairs, features, truth } of samples) {
    measured
      .update(`${font.family} ${font.weight} ${font.italic} ${set} ${pairs.join('')}`)
      .update(features)
      .update(truth);
  }
  const keyOf = (sources: readonly string[]): string => {
    const hash = measured.copy();
    for (const name of sources) hash.update(readFileSync(join(root, name)));
    return hash.digest('hex').slice(0, 16);
  };
  const keys = { networks: keyOf(NETWORKS), precedents: keyOf(PRECEDENTS) };
  mkdirSync(KEPT_IN, { recursive: true });
  return Promise.all(
    Array.from({ length: FOLDS }, async (_, fold) => {
      const held = FAMILIES.filter((_, i) => i % FOLDS === fold);
      const others = samples.filter(({ font }) => !held.includes(font.family));
      const networks = await kept(`${keys.networks}-${fold}`, () => fitNetworks(others, pool));
      const precedents = await kept(`${keys.precedents}-${fold}`, () => precedentsOf(others));
      return { held, model: { ...networks, precedents } };
    }),
  );
}

/** Something that is made once and read from then on. */
async function kept<T>(name: string, make: () => T | Promise<T>): Promise<T> {
  const file = join(KEPT_IN, name);
  if (existsSync(file)) return deserialize(readFileSync(file)) as T;
  const made = await make();
  writeFileSync(file, serialize(made));
  console.log(`learned ${name}`);
  return made;
}
