import type { Precedents } from './precedent';

/** The learned networks: how measures are standardised, and the networks that answer them (weights.ts has their layout). */
export interface Learned {
  readonly means: ArrayLike<number>;
  readonly deviations: ArrayLike<number>;
  readonly networks: readonly ArrayLike<number>[];
}

/** The model of shapes. */
export interface ShapeModel {
  readonly letters: Learned;
  readonly signs: Learned;
  readonly precedents: Precedents;
}
