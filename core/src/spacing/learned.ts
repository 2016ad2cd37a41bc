import type { Precedents } from './precedent';

/** What networks learned from designers: how measures are standardised, and the networks that answer them (weights.ts has their layout). */
export interface Learned {
  readonly means: ArrayLike<number>;
  readonly deviations: ArrayLike<number>;
  readonly networks: readonly ArrayLike<number>[];
}

/** What is known of letters among themselves, of gaps beside figures, marks and symbols, and of what was given to letters of like shapes. */
export interface ShapeModel {
  readonly letters: Learned;
  readonly signs: Learned;
  readonly precedents: Precedents;
}
