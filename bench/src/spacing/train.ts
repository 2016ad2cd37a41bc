/** npm run bench:spacing -- train: fits the networks on all families and writes core/src/spacing/weights.ts. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FEATURE_COUNT } from '@jentrix/core/spacing';
import { root } from '@jentrix/e2e/harness';
import type { Samples } from './data';
import { type Net, run, train } from './network';

const HIDDEN = 24;
const SEEDS = [1, 18, 35];
const OPTIONS = { hidden: HIDDEN, epochs: 14, rate: 0.003, decay: 0.01, delta: 0.05 };
const INPUT_LIMIT = 3;

export interface Model {
  means: Float64Array;
  deviations: Float64Array;
  nets: Net[];
}

/** Fits on samples. Punctuation counts double: its sets are small. */
export function fit(samples: readonly Samples[]): Model {
  const rows = samples.reduce((sum, { truth }) => sum + truth.length, 0);
  const means = new Float64Array(FEATURE_COUNT);
  const deviations = new Float64Array(FEATURE_COUNT);
  for (const { features, truth } of samples) {
    for (let row = 0; row < truth.length; row++) {
      for (let i = 0; i < FEATURE_COUNT; i++) {
        const value = features[row * FEATURE_COUNT + i]!;
        means[i]! += value / rows;
        deviations[i]! += (value * value) / rows;
      }
    }
  }
  for (let i = 0; i < FEATURE_COUNT; i++) deviations[i] = Math.sqrt(Math.max(1e-8, deviations[i]! - means[i]! ** 2));
  const x = new Float32Array(rows * FEATURE_COUNT);
  const y = new Float32Array(rows);
  const w = new Float32Array(rows);
  let k = 0;
  for (const { features, truth, set } of samples) {
    for (let row = 0; row < truth.length; row++, k++) {
      for (let i = 0; i < FEATURE_COUNT; i++) x[k * FEATURE_COUNT + i] = standard(features[row * FEATURE_COUNT + i]!, means[i]!, deviations[i]!);
      y[k] = Math.max(-2, Math.min(1, truth[row]! / 100));
      w[k] = set === 'P' ? 2 : 1;
    }
  }
  return { means, deviations, nets: SEEDS.map((seed) => train(x, y, w, FEATURE_COUNT, { ...OPTIONS, seed })) };
}

const standard = (value: number, mean: number, deviation: number): number => Math.max(-INPUT_LIMIT, Math.min(INPUT_LIMIT, (value - mean) / deviation));

/** The model's raw answers for samples, in 1/1000 em. */
export function predict({ means, deviations, nets }: Model, { features, truth }: Samples): Float64Array {
  const z = new Float64Array(FEATURE_COUNT);
  return truth.map((_, row) => {
    for (let i = 0; i < FEATURE_COUNT; i++) z[i] = standard(features[row * FEATURE_COUNT + i]!, means[i]!, deviations[i]!);
    return (100 * nets.reduce((sum, net) => sum + run(net, z), 0)) / nets.length;
  });
}

/** Writes the model as the source file the core ships. */
export function writeModel({ means, deviations, nets }: Model): void {
  const list = (values: Float64Array, digits: number): string => `[${Array.from(values, (value) => Number(value.toFixed(digits))).join(',')}]`;
  const source = [
    '// Made by `npm run bench:spacing -- train`: the networks of proposal.ts, fitted on the families of docs/spacing.md. Not edited by hand.',
    '',
    `export const MEANS: readonly number[] = ${list(means, 6)};`,
    `export const DEVIATIONS: readonly number[] = ${list(deviations, 6)};`,
    '/** For each network: 24 rows of input weights, 24 biases, 24 output weights, the output bias. */',
    'export const NETWORKS: readonly (readonly number[])[] = [',
    ...nets.map(({ weights }) => `  ${list(weights, 4)},`),
    '];',
    '',
  ].join('\n');
  writeFileSync(join(root, 'core/src/spacing/weights.ts'), source);
}
