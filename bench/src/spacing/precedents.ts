/** Kerning that designers gave to letters of similar shapes: the shapes of the families' letters, and the mean kerning between them. */
import { kmeans } from 'ml-kmeans';
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import { knownOf } from '@jentrix/core/base';
import { type Likeness, type PairSide, type Precedents, RANK, liken, packNumbers, precedent, recall, stepFor, unpackNumbers } from '@jentrix/core/spacing';
import { randomFrom } from '@jentrix/core/testing';
import type { Samples } from './data';
import { designerKerning } from './families';

/** Letters fall into this many shapes, found among so many of them. */
const SHAPES = 256;
const LOOKED_AT = 12_000;
const ROUNDS = 12;
/** Two shapes that were seen together as little as this, in fonts, are believed by half. */
const DOUBT = 0.5;
/** Steps that the shapes' descriptions are kept in, in em. */
export const SHAPE_STEP = 0.015;

/** Kerning with the word space is kept in steps of this, in 1/1000 em. */
export const WORD_STEP = 1.5;

/** Both tables of factors are kept in steps of their own. */
export interface LearntPrecedents extends Precedents {
  steps: { left: number; right: number };
}

/** The precedents of samples. Every family counts by the root of how many fonts it has. */
export function precedentsOf(samples: readonly Samples[]): LearntPrecedents {
  const shapes = shapesOf(samples);
  const sums = new Float64Array(SHAPES ** 2);
  const seen = new Float64Array(SHAPES ** 2);
  const fonts = new Map<string, Set<Samples['font']>>();
  for (const { font } of samples) fonts.set(font.family, (fonts.get(font.family) ?? new Set()).add(font));
  const likenesses = { left: new WeakMap<Float64Array, Likeness>(), right: new WeakMap<Float64Array, Likeness>() };
  const likeness = (description: Float64Array, place: PairSide): Likeness['shapes'] =>
    knownOf(likenesses[place], description, () => liken(description, place, shapes)).shapes;
  for (const { font, pairs, truth, described } of samples) {
    const weight = 1 / Math.sqrt(fonts.get(font.family)!.size);
    pairs.forEach((pair, i) => {
      const [a, b] = lettersOf(pair);
      for (const left of likeness(described.get(a)!, 'left')) {
        for (const right of likeness(described.get(b)!, 'right')) {
          const at = left.at * SHAPES + right.at;
          sums[at]! += weight * left.weight * right.weight * truth[i]!;
          seen[at]! += weight * left.weight * right.weight;
        }
      }
    });
  }
  return { shapes, ...factorsOf(sums.map((sum, at) => sum / (seen[at]! + DOUBT))), words: wordsOf(samples, likeness) };
}

/** Fonts that kern fewer letters than this with the word space say nothing of the others. */
const LEAST_WORDS = 8;

/** The mean kerning of each shape with the word space, by the fonts that kern it. Every family counts by the root of how many of its fonts do. */
function wordsOf(samples: readonly Samples[], likeness: (description: Float64Array, place: PairSide) => Likeness['shapes']): LearntPrecedents['words'] {
  const fonts = new Map<Samples['font'], Map<string, Float64Array>>();
  for (const { font, described } of samples) fonts.set(font, new Map([...(fonts.get(font) ?? []), ...described]));
  const kerned = [...fonts].flatMap(([font, described]) => {
    const letters = [...described].flatMap(([letter, description]) =>
      /\p{L}/u.test(letter) ? [{ description, left: designerKerning(font.instance, letter, ' '), right: designerKerning(font.instance, ' ', letter) }] : [],
    );
    return letters.filter(({ left, right }) => left !== 0 || right !== 0).length < LEAST_WORDS ? [] : [{ font, letters }];
  });
  const table = (place: PairSide): Float64Array => {
    const [sums, seen] = [new Float64Array(SHAPES), new Float64Array(SHAPES)];
    for (const { font, letters } of kerned) {
      const weight = 1 / Math.sqrt(kerned.filter((other) => other.font.family === font.family).length);
      for (const letter of letters) {
        for (const { at, weight: like } of likeness(letter.description, place)) {
          sums[at]! += weight * like * letter[place];
          seen[at]! += weight * like;
        }
      }
    }
    return unpackNumbers(
      packNumbers(
        sums.map((sum, at) => sum / (seen[at]! + DOUBT)),
        WORD_STEP,
        1,
      ),
      WORD_STEP,
      1,
    );
  };
  return { left: table('left'), right: table('right') };
}

const lettersOf = (pair: string): [string, string] => [...pair] as [string, string];

/** The middles of the shapes that letters fall into, as they are kept. */
function shapesOf(samples: readonly Samples[]): Float64Array {
  const letters = [...new Set(samples.map(({ described }) => described))].flatMap((described) => [...described.values()]);
  const random = randomFrom(1);
  const some = letters
    .map((letter) => ({ letter, order: random() }))
    .sort((a, b) => a.order - b.order)
    .slice(0, LOOKED_AT)
    .map(({ letter }) => [...letter]);
  const { centroids } = kmeans(some, SHAPES, { seed: 1, initialization: 'kmeans++', maxIterations: ROUNDS });
  return unpackNumbers(packNumbers(centroids.flat(), SHAPE_STEP, 1), SHAPE_STEP, 1);
}

/** A table of kerning between shapes as the product of two: the best of its rank (Eckart and Young, 1936), as they are kept. */
function factorsOf(table: Float64Array): Pick<LearntPrecedents, 'factors' | 'steps'> {
  const decomposed = new SingularValueDecomposition(Matrix.from1DArray(SHAPES, SHAPES, table));
  const roots = decomposed.diagonal.slice(0, RANK).map(Math.sqrt);
  const kept = (vectors: Matrix): { values: Float64Array; step: number } => {
    const values = Float64Array.from({ length: SHAPES * RANK }, (_, i) => vectors.get(Math.floor(i / RANK), i % RANK) * roots[i % RANK]!);
    const step = Number(stepFor(values).toPrecision(3));
    return { values: unpackNumbers(packNumbers(values, step, 1), step, 1), step };
  };
  const [left, right] = [kept(decomposed.leftSingularVectors), kept(decomposed.rightSingularVectors)];
  return { factors: { left: left.values, right: right.values }, steps: { left: left.step, right: right.step } };
}

/** The precedent of every pair of a sample. */
export function precedentsFor({ pairs, described }: Samples, precedents: Precedents): ReturnType<typeof precedent>[] {
  const all = (place: PairSide): Map<string, ReturnType<typeof recall>> =>
    new Map([...described].map(([letter, description]) => [letter, recall(description, place, precedents)]));
  const [left, right] = [all('left'), all('right')];
  return pairs.map((pair) => {
    const [a, b] = lettersOf(pair);
    return precedent(left.get(a)!, right.get(b)!);
  });
}
