/** A player by the numbers: someone whose eye is off in a known way. What score and advice are held against. */
import type { FaceSet } from '../setting';
import type { PairKind } from '../taste';
import { type Chance, chanceFrom } from './chance';
import { type DealRequest, type PlaceExercise, aimOf, placed } from './deal';
import { deal } from './plain';
import { betweenEnds, inTenths } from './line';
import { LEVELS, type LevelId } from './levels';
import type { DrillResult } from './score';

export interface Player {
  /** How much more open than its place a gap looks right to them, by kind of pair, in 1/1000 em. */
  bias: Readonly<Record<PairKind, number>>;
  /** How unsteady the hand is: the standard deviation of a gap, in 1/1000 em. */
  deviation: number;
  /** Lets everything lie as it was dealt. */
  idle?: boolean;
}

/** Where a player puts the letters: each gap as they see it, both ends kept. */
export function placesBy(player: Player, exercise: PlaceExercise, chance: Chance): number[] {
  if (player.idle) return [...exercise.dealt];
  const { gaps } = exercise.line;
  const changes = gaps.map(({ pair }) => (pair === null ? 0 : (player.bias[pair] ?? 0)) + (player.deviation > 0 ? chance.normal(player.deviation) : 0));
  return betweenEnds(aimOf(exercise.line), changes).map(inTenths);
}

/** The history a player leaves after rounds of placing, three a day through all levels. @throws DrillError */
export function playRounds(
  player: Player,
  { rounds, seed, faces: offered, levels = LEVELS.map(({ id }) => id) }: Pick<DealRequest, 'seed' | 'faces'> & { rounds: number; levels?: readonly LevelId[] },
  faces: FaceSet,
): DrillResult[] {
  const chance = chanceFrom(seed);
  return Array.from({ length: rounds }, (_, i): DrillResult => {
    const level = levels[i % levels.length] ?? 'straight';
    const exercise = deal({ kind: 'place', level, seed: seed * 1_000_003 + i, faces: offered, hardness: 0 }, faces) as PlaceExercise;
    const at = new Date(Date.UTC(2026, 0, 5) + Math.floor(i / 3) * 86_400_000).toISOString();
    return { level, faceId: exercise.line.faceId, words: exercise.line.words, at, seconds: null, answer: placed(exercise, placesBy(player, exercise, chance)) };
  });
}
