/** Chance, the same for a seed: what is dealt can be dealt again. */
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { mersenne } from 'pure-rand/generator/mersenne';

export interface Chance {
  /** A number from 0 up to 1. */
  next(): number;
  /** Evenly between two numbers. */
  between(least: number, most: number): number;
  /** One of several. @throws RangeError for none */
  of<T>(several: readonly T[]): T;
  /** Around 0 with a standard deviation (Box and Muller, 1958). */
  normal(deviation: number): number;
}

export function chanceFrom(seed: number): Chance {
  // Its beginnings differ for seeds that are near one another.
  const generator = mersenne(seed);
  const next = (): number => uniformFloat64(generator);
  return {
    next,
    between: (least, most) => least + next() * (most - least),
    of: (several) => {
      const one = several[Math.floor(next() * several.length)];
      if (one === undefined) throw new RangeError('There is nothing to choose from.');
      return one;
    },
    normal: (deviation) => deviation * Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
  };
}
