/** npm run bench:spacing -- train: fits the networks on all families and writes core/src/spacing/weights.ts. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FEATURE_COUNT, type Learned, MIRRORED, type ShapeModel, packNumbers, withPrecedent } from '@jentrix/core/spacing';
import { root } from '@jentrix/e2e/harness';
import type { Samples } from './data';
import type { SetName } from './families';
import { type Net, type TrainOptions, run } from './network';
import type { TrainingPool } from './pool';
import { type LearntPrecedents, SHAPE_STEP, WORD_STEP, precedentsFor, precedentsOf } from './precedents';

const OPTIONS = { epochs: 8, batch: 192, rate: 0.003, decay: 0.01, mirror: 1 / 3 };
/** Some networks follow the middle of what designers do, others lean to the mean: their errors differ. */
const networks = (hidden: number, deltas: readonly number[]): TrainOptions[] => deltas.map((delta, i) => ({ ...OPTIONS, hidden, delta, seed: 1 + 17 * i }));
const INPUT_LIMIT = 3;

/** The parts that are learned together: letters among themselves, and all that stands beside figures and signs. */
const PARTS = {
  letters: { sets: ['UU', 'UL', 'LL', 'A'], networks: networks(24, [0.05, 0.05, 0.2, 0.2]) },
  signs: { sets: ['P', 'F', 'S'], networks: networks(16, [0.05, 0.05, 0.2]) },
} as const satisfies Record<Exclude<keyof ShapeModel, 'precedents'>, { sets: readonly SetName[]; networks: readonly TrainOptions[] }>;
type Part = keyof typeof PARTS;

/** How much the sets count: the smaller ones, and those in which designers kern little, more. */
const SET_WEIGHT: Readonly<Record<SetName, number>> = { UU: 1, UL: 1.5, LL: 2, P: 2, A: 0.5, F: 1, S: 1 };

/** A learned part. */
interface Learnt {
  means: Float64Array;
  deviations: Float64Array;
  nets: Net[];
}
export type Networks = Record<Part, Learnt>;
export type Model = Networks & { precedents: LearntPrecedents };

/** The model as the core takes it. */
export function shapeModelOf(model: Model): ShapeModel {
  const learned = ({ means, deviations, nets }: Learnt): Learned => ({ means, deviations, networks: nets.map(({ weights }) => weights) });
  return { letters: learned(model.letters), signs: learned(model.signs), precedents: model.precedents };
}

/** Fits on samples. */
export const fit = async (samples: readonly Samples[], pool: TrainingPool): Promise<Model> => ({
  ...(await fitNetworks(samples, pool)),
  precedents: precedentsOf(samples),
});

/** The networks alone, part by part: what takes minutes. */
export async function fitNetworks(samples: readonly Samples[], pool: TrainingPool): Promise<Networks> {
  const part = (name: Part): Promise<Learnt> =>
    fitPart(
      samples.filter(({ set }) => (PARTS[name].sets as readonly SetName[]).includes(set)),
      pool,
      PARTS[name].networks,
    );
  const [letters, signs] = await Promise.all([part('letters'), part('signs')]);
  return { letters, signs };
}

const mean = (values: ArrayLike<number>): number => Array.from(values).reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
const amountOf = ({ truth }: Samples): number => mean(truth.map(Math.abs));

/**
 * Fits on samples. Houses that kern a lot would drown the others: each font counts by the root of its set's mean amount of kerning
 * over its own, and what it kerns is brought nearer to that mean by the same.
 */
async function fitPart(samples: readonly Samples[], pool: TrainingPool, networks: readonly TrainOptions[]): Promise<Learnt> {
  const rows = samples.reduce((sum, { truth }) => sum + truth.length, 0);
  const means = new Float64Array(FEATURE_COUNT);
  const deviations = new Float64Array(FEATURE_COUNT);
  for (const { features, truth } of samples) {
    for (let row = 0; row < truth.length; row++) {
      for (let i = 0; i < FEATURE_COUNT; i++) {
        // Pairs and their mirror images alike.
        for (const at of [i, MIRRORED[i]!]) {
          const value = features[row * FEATURE_COUNT + at]!;
          means[i]! += value / (2 * rows);
          deviations[i]! += (value * value) / (2 * rows);
        }
      }
    }
  }
  for (let i = 0; i < FEATURE_COUNT; i++) deviations[i] = Math.sqrt(Math.max(1e-8, deviations[i]! - means[i]! ** 2));
  const shared = (length: number): Float32Array => new Float32Array(new SharedArrayBuffer(4 * length));
  const x = shared(rows * FEATURE_COUNT);
  const y = shared(rows);
  const w = shared(rows);
  let k = 0;
  for (const sample of samples) {
    const { features, truth, set } = sample;
    const usual = mean(samples.filter((other) => other.set === set).map(amountOf));
    const evened = Math.sqrt(Math.max(0.3, Math.min(3, usual / amountOf(sample))));
    for (let row = 0; row < truth.length; row++, k++) {
      for (let i = 0; i < FEATURE_COUNT; i++) x[k * FEATURE_COUNT + i] = standard(features[row * FEATURE_COUNT + i]!, means[i]!, deviations[i]!);
      y[k] = Math.max(-2, Math.min(1, (truth[row]! * evened) / 100));
      w[k] = SET_WEIGHT[set] * evened;
    }
  }
  const set = { inputs: FEATURE_COUNT, x, y, w, mirrored: MIRRORED };
  return { means, deviations, nets: await Promise.all(networks.map((options) => pool.train({ set, options }))) };
}

const standard = (value: number, mean: number, deviation: number): number => Math.max(-INPUT_LIMIT, Math.min(INPUT_LIMIT, (value - mean) / deviation));

/** The networks' answers for samples, in 1/1000 em. */
export function answers(model: Pick<Model, Part>, { set, features, truth }: Samples): Float64Array {
  const { means, deviations, nets } = model[partOf(set)];
  const z = new Float64Array(FEATURE_COUNT);
  return truth.map((_, row) => {
    for (let i = 0; i < FEATURE_COUNT; i++) z[i] = standard(features[row * FEATURE_COUNT + i]!, means[i]!, deviations[i]!);
    return (100 * nets.reduce((sum, net) => sum + run(net, z), 0)) / nets.length;
  });
}

/** The networks' answers and what is remembered of letters like these, weighed; in 1/1000 em. */
export function predict(model: Model, sample: Samples): Float64Array {
  const precedents = precedentsFor(sample, model.precedents);
  return answers(model, sample).map((answer, i) => withPrecedent(answer, precedents[i]!));
}

/** The part that answers for a set. */
export const partOf = (set: SetName): Part => ((PARTS.signs.sets as readonly SetName[]).includes(set) ? 'signs' : 'letters');

/** Weights of networks are kept in steps of this. */
const WEIGHT_STEP = 0.005;

/** Writes the model as the source file the core ships. */
export function writeModel({ letters, signs, precedents }: Model): void {
  const list = (values: Float64Array): string => `[${Array.from(values, (value) => Number(value.toFixed(5))).join(', ')}]`;
  const unpacked = (values: ArrayLike<number>, step: number, digits: 1 | 2): string =>
    `/* @__PURE__ */ unpack('${packNumbers(values, step, digits)}', ${step}, ${digits})`;
  const part = ({ means, deviations, nets }: Learnt): string[] => [
    `  means: ${list(means)},`,
    `  deviations: ${list(deviations)},`,
    '  networks: [',
    ...nets.map(({ weights }) => `    ${unpacked(weights, WEIGHT_STEP, 2)},`),
    '  ],',
    '};',
  ];
  const source = [
    '// Made by `npm run bench:spacing -- train`: what proposal.ts answers with, learned from the families of docs/spacing.md. Not edited by hand.',
    "import type { Learned } from './learned';",
    "import { unpack } from './packed';",
    "import type { Precedents } from './precedent';",
    '',
    '// For each network: a row of input weights for every hidden unit, their biases, their output weights, the output bias.',
    'export const LETTERS: Learned = {',
    ...part(letters),
    '',
    'export const SIGNS: Learned = {',
    ...part(signs),
    '',
    'export const PRECEDENTS: Precedents = {',
    `  shapes: ${unpacked(precedents.shapes, SHAPE_STEP, 1)},`,
    '  factors: {',
    `    left: ${unpacked(precedents.factors.left, precedents.steps.left, 1)},`,
    `    right: ${unpacked(precedents.factors.right, precedents.steps.right, 1)},`,
    '  },',
    '  words: {',
    `    left: ${unpacked(precedents.words.left, WORD_STEP, 1)},`,
    `    right: ${unpacked(precedents.words.right, WORD_STEP, 1)},`,
    '  },',
    '};',
    '',
  ].join('\n');
  writeFileSync(join(root, 'core/src/spacing/weights.ts'), source);
}
