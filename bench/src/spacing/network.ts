/** Training of the small network that turns measured features into kerning. The network itself lives in core/spacing. */
import { randomFrom } from '@jentrix/core/testing';

export interface Net {
  inputs: number;
  hidden: number;
  /** hidden x inputs, then hidden biases, hidden output weights, one output bias. */
  weights: Float64Array;
}

/** Rows to learn from, in memory that workers share. */
export interface TrainingSet {
  inputs: number;
  /** Standardised, row by row. */
  x: Float32Array;
  /** The output wanted. */
  y: Float32Array;
  /** How much the row counts. */
  w: Float32Array;
  /** Where each input is found in the mirror image of a row. */
  mirrored: readonly number[];
}

export interface TrainOptions {
  hidden: number;
  epochs: number;
  /** Rows whose errors are put together before the weights move. */
  batch: number;
  rate: number;
  decay: number;
  /** Errors beyond this many output units count linearly, not squared. */
  delta: number;
  /** The share of rows that are shown in the mirror at each visit. */
  mirror: number;
  seed: number;
}

/** Adam on a Huber loss, with rows now and then shown in the mirror. */
export function train({ inputs, x, y, w, mirrored }: TrainingSet, { hidden, epochs, batch, rate, decay, delta, mirror, seed }: TrainOptions): Net {
  const random = randomFrom(seed);
  const size = hidden * inputs + hidden + hidden + 1;
  const weights = new Float64Array(size);
  for (let i = 0; i < hidden * inputs; i++) weights[i] = (random() * 2 - 1) * Math.sqrt(3 / inputs);
  const B = hidden * inputs;
  const O = B + hidden;
  for (let i = 0; i < hidden; i++) weights[O + i] = (random() * 2 - 1) * Math.sqrt(3 / hidden) * 0.5;
  const m = new Float64Array(size);
  const v = new Float64Array(size);
  const gradient = new Float64Array(size);
  const activation = new Float64Array(hidden);
  const shown = new Float64Array(inputs);
  const rows = y.length;
  const order = Uint32Array.from({ length: rows }, (_, i) => i);
  let t = 0;
  for (let epoch = 0; epoch < epochs; epoch++) {
    for (let i = rows - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      const swap = order[i]!;
      order[i] = order[j]!;
      order[j] = swap;
    }
    const progress = epoch / epochs;
    const step = rate * (progress < 0.7 ? 1 : progress < 0.9 ? 0.3 : 0.1);
    for (let from = 0; from < rows; from += batch) {
      gradient.fill(0);
      const to = Math.min(rows, from + batch);
      for (let k = from; k < to; k++) {
        const row = order[k]!;
        const at = row * inputs;
        if (random() < mirror) for (let i = 0; i < inputs; i++) shown[i] = x[at + mirrored[i]!]!;
        else for (let i = 0; i < inputs; i++) shown[i] = x[at + i]!;
        let out = weights[size - 1]!;
        for (let h = 0; h < hidden; h++) {
          let sum = weights[B + h]!;
          const base = h * inputs;
          for (let i = 0; i < inputs; i++) sum += weights[base + i]! * shown[i]!;
          const a = Math.tanh(sum);
          activation[h] = a;
          out += weights[O + h]! * a;
        }
        const error = out - y[row]!;
        const slope = Math.max(-delta, Math.min(delta, error)) * w[row]!;
        gradient[size - 1]! += slope;
        for (let h = 0; h < hidden; h++) {
          const a = activation[h]!;
          gradient[O + h]! += slope * a;
          const back = slope * weights[O + h]! * (1 - a * a);
          gradient[B + h]! += back;
          const base = h * inputs;
          for (let i = 0; i < inputs; i++) gradient[base + i]! += back * shown[i]!;
        }
      }
      t++;
      const correct1 = 1 - 0.9 ** t;
      const correct2 = 1 - 0.999 ** t;
      for (let i = 0; i < size; i++) {
        const g = gradient[i]! / (to - from);
        m[i] = 0.9 * m[i]! + 0.1 * g;
        v[i] = 0.999 * v[i]! + 0.001 * g * g;
        weights[i]! -= step * (m[i]! / correct1 / (Math.sqrt(v[i]! / correct2) + 1e-8) + decay * weights[i]!);
      }
    }
  }
  return { inputs, hidden, weights };
}

export function run({ inputs, hidden, weights }: Net, x: ArrayLike<number>, at = 0): number {
  const B = hidden * inputs;
  const O = B + hidden;
  let out = weights[weights.length - 1]!;
  for (let h = 0; h < hidden; h++) {
    let sum = weights[B + h]!;
    for (let i = 0; i < inputs; i++) sum += weights[h * inputs + i]! * x[at + i]!;
    out += weights[O + h]! * Math.tanh(sum);
  }
  return out;
}
