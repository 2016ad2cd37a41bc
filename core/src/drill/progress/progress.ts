/** Progress from a history of exercises: where it is off, how it comes on, and what to practise next (docs/drill.md). */
import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import type { PairKind } from '../../taste';
import { LEVELS, type LevelId, levelOf } from '../levels';
import type { Advice, PairProgress, Progress } from '../progress-schema';
import { mondayOf } from '../week';
import { DEALT, EXERCISES, type DrillResult, GOOD, chanceScore, leadingScore, mean, scoreOf } from '../score';

/** Older ones tell of another eye. */
const LOOKED_AT = 60;
/** A bias is spoken of from so many gaps, so many 1/1000 em and so many standard errors on: of some fifteen kinds none is to be found by chance. */
const LEAST_GAPS = 6;
const LEAST_BIAS = 4;
const SURE = 3;
/** Each kind counts one gap without bias before any was seen: what was hardly met says little. */
const PRIOR = 1;
/** A level is mastered by so many words in a row that score well on average. */
const IN_A_ROW = 5;
/** Hardness after a good answer and after another: two good ones make up for a bad one. */
const HARDER = 0.1;
const EASIER = 0.2;

type PlacingResult = DrillResult & { answer: { kind: 'place' } };
const isPlacing = (result: DrillResult): result is PlacingResult => result.answer.kind === 'place';

/** @param results in the order they were done. */
export function progressOf(results: readonly DrillResult[]): Progress {
  const placings = results.filter(isPlacing);
  const pairs = pairsOf(placings.slice(-LOOKED_AT));
  const exercises = EXERCISES.map((kind) => {
    const own = results.filter(({ answer }) => answer.kind === kind);
    return { kind, count: own.length, score: mean(own.map(({ answer }) => scoreOf(answer))), chance: mean(own.map(chanceOf)), hardness: hardnessAfter(own) };
  });
  const levels = LEVELS.map(({ id }) => {
    const own = placings.filter(({ level }) => level === id);
    return { level: id, count: own.length, score: mean(own.slice(-IN_A_ROW).map(({ answer }) => scoreOf(answer))) };
  });
  return {
    count: results.length,
    exercises,
    levels,
    weeks: weeksOf(results),
    streak: streakOf(results),
    pairs,
    advice: adviceFrom(placings, pairs, levels, exercises),
  };
}

/** The score of chance in an exercise: letters and lines lie as they were dealt, one of several is pointed at. */
function chanceOf({ answer }: DrillResult): number {
  if (answer.kind === 'place') return chanceScore(DEALT);
  if (answer.kind === 'leading') return leadingScore(answer.dealt);
  return answer.kind === 'even' ? 50 : 100 / answer.of;
}

function hardnessAfter(results: readonly DrillResult[]): number {
  const hardness = results.reduce((hard, { answer }) => Math.max(0, Math.min(1, hard + (scoreOf(answer) >= GOOD ? HARDER : -EASIER))), 0);
  return Math.round(hardness * 10) / 10;
}

function streakOf(results: readonly DrillResult[]): Progress['streak'] {
  let [best, now] = [0, 0];
  for (const { answer } of results) {
    now = scoreOf(answer) >= GOOD ? now + 1 : 0;
    best = Math.max(best, now);
  }
  return { best, now };
}

function weeksOf(results: readonly DrillResult[]): Progress['weeks'] {
  const weeks = grouped(results, ({ at }) => mondayOf(at));
  return [...weeks]
    .map(([monday, own]) => ({ monday, count: own.length, score: mean(own.map(({ answer }) => scoreOf(answer))) }))
    .sort((a, b) => a.monday.localeCompare(b.monday));
}

/**
 * The bias of each kind of pair. Both ends of a word are given, so that its gaps are off by nothing in all: who leaves one kind too open
 * has to shut the others. What is seen of a gap is therefore its kind's bias less the mean of its word's biases, and the biases come from
 * all words by least squares, up to a number that is the same for all: the usual kind (the median gap's) has none.
 */
function pairsOf(placings: readonly PlacingResult[]): PairProgress[] {
  const seen = new Map<PairKind | null, { gaps: number; off: number }>();
  for (const { pair, off } of placings.flatMap(({ answer }) => answer.gaps)) {
    const one = seen.get(pair) ?? { gaps: 0, off: 0 };
    seen.set(pair, { gaps: one.gaps + 1, off: one.off + Math.abs(off) });
  }
  const kinds = [...seen.keys()];
  const count = kinds.length;
  if (count === 0) return [];
  const normal = Matrix.eye(count, count, PRIOR);
  const right = Matrix.zeros(count, 1);
  const rows: { row: number[]; off: number }[] = [];
  for (const { answer } of placings) {
    const share = kinds.map((kind) => answer.gaps.filter(({ pair }) => pair === kind).length / answer.gaps.length);
    for (const { pair, off } of answer.gaps) {
      const row = kinds.map((kind, k) => (kind === pair ? 1 : 0) - (share[k] ?? 0));
      rows.push({ row, off });
      row.forEach((a, i) => {
        right.set(i, 0, right.get(i, 0) + a * off);
        row.forEach((b, j) => normal.set(i, j, normal.get(i, j) + a * b));
      });
    }
  }
  const solver = new CholeskyDecomposition(normal);
  const solved = solver.solve(right).to1DArray();
  const inverse = solver.solve(Matrix.eye(count, count));
  const rest = rows.reduce((sum, { row, off }) => sum + (off - row.reduce((all, a, i) => all + a * (solved[i] ?? 0), 0)) ** 2, 0);
  const variance = rest / Math.max(1, rows.length - count);
  const usual = medianGap(kinds.map((kind, i) => ({ value: solved[i] ?? 0, weight: seen.get(kind)?.gaps ?? 0 })));
  return kinds
    .flatMap((pair, i) => {
      const own = seen.get(pair);
      if (pair === null || !own) return [];
      return [
        { pair, gaps: own.gaps, bias: round(solved[i] ?? 0, usual), error: round(Math.sqrt(variance * inverse.get(i, i))), off: round(own.off / own.gaps) },
      ];
    })
    .sort((a, b) => b.gaps - a.gaps || a.pair.localeCompare(b.pair));
}

const round = (value: number, less = 0): number => Math.round((value - less) * 10) / 10;

/** The value of the gap in the middle, gaps sorted by the value of their kind. */
function medianGap(values: readonly { value: number; weight: number }[]): number {
  const sorted = [...values].sort((a, b) => a.value - b.value);
  const half = sorted.reduce((sum, { weight }) => sum + weight, 0) / 2;
  let passed = 0;
  for (const { value, weight } of sorted) {
    passed += weight;
    if (passed >= half) return value;
  }
  return 0;
}

function adviceFrom(placings: readonly PlacingResult[], pairs: readonly PairProgress[], levels: Progress['levels'], exercises: Progress['exercises']): Advice {
  const open = levels.find(({ count, score }) => count < IN_A_ROW || score < GOOD);
  const [first] = LEVELS;
  if (placings.length === 0 && first) {
    return { about: 'begin', says: 'Start with stems beside stems: place the letters until all gaps look alike.', next: { kind: 'place', level: first.id } };
  }
  const [worst] = pairs
    .filter(({ gaps, bias, error }) => gaps >= LEAST_GAPS && Math.abs(bias) >= LEAST_BIAS && Math.abs(bias) >= SURE * error)
    .sort((a, b) => Math.abs(b.bias) - Math.abs(a.bias));
  if (worst) {
    const amount = `about ${Math.round(Math.abs(worst.bias))}/1000 em ${worst.bias > 0 ? 'more open' : 'tighter'}`;
    const says = `You leave ${worst.pair} ${amount} than your other gaps. Words with such pairs come next.`;
    return { about: 'pair', says, next: { kind: 'place', level: mostMet(placings, worst.pair), pair: worst.pair } };
  }
  if (open) {
    const { name, says } = levelOf(open.level);
    return { about: 'level', says: `${name}${open.count === 0 ? '' : ' again'}. ${says}`, next: { kind: 'place', level: open.level } };
  }
  const [weakest] = exercises.filter(({ kind }) => kind !== 'place').sort((a, b) => a.score - b.score || a.count - b.count);
  const kind = weakest?.kind ?? 'place';
  return {
    about: 'exercise',
    says: 'You have mastered all levels. Try the other exercises: their faults get smaller as you find them.',
    next: { kind, level: 'lines' },
  };
}

/** The level on which a kind of pair was met most; own words are no level. */
function mostMet(placings: readonly PlacingResult[], pair: PairKind): LevelId {
  const met = LEVELS.map(({ id }) => ({
    id,
    share: mean(placings.filter(({ level }) => level === id).flatMap(({ answer }) => answer.gaps.map((gap) => (gap.pair === pair ? 1 : 0)))),
  }));
  return met.reduce((best, one) => (one.share > best.share ? one : best)).id;
}

function grouped<T>(values: readonly T[], key: (value: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const value of values) groups.set(key(value), [...(groups.get(key(value)) ?? []), value]);
  return groups;
}
