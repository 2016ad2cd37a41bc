/** Exercises, dealt by chance from a seed: the same seed deals the same again. All lengths in 1/1000 em. */
import type { Block } from '../job';
import type { FaceSet } from '../setting';
import type { PairKind } from '../taste';
import { type Chance, chanceFrom } from './chance';
import { type LevelId, levelOf } from './levels';
import { DrillError, type DrillLine, betweenEnds, closedTo, drillLineFrom, hasGoodKerning, inTenths } from './line';
import type { Answer } from './score';
import { DEALT, type ExerciseKind, letterScore, mean } from './worth';

/** A request for an exercise. */
export interface DealRequest {
  kind: ExerciseKind;
  level: LevelId | 'own';
  seed: number;
  /** Faces to choose from, in no order: the slanted ones are for the level that is. */
  faces: readonly { id: string; italic: boolean }[];
  /** Words of one's own, in a face of one's own choice. */
  own?: { words: string; faceId: string } | undefined;
  /** Kind of pair that the words should have many of. */
  pair?: PairKind | undefined;
  /** How hard, 0 to 1: what is wrong gets smaller. */
  hardness: number;
}

interface Dealt {
  level: DealRequest['level'];
  seed: number;
  line: DrillLine;
}

/** Letters to place: the first and the last stand where they belong. */
export interface PlaceExercise extends Dealt {
  kind: 'place';
  /** Where letters begin to be placed from. */
  dealt: number[];
}

/** Two settings of one word: which is more even? */
export interface EvenExercise extends Dealt {
  kind: 'even';
  first: number[];
  second: number[];
  /** Which, and by how much the other is more uneven: the difference of the standard deviations of their gaps. */
  answer: 'first' | 'second';
  by: number;
}

/** A word with one gap that is wrong. */
export interface WrongExercise extends Dealt {
  kind: 'wrong';
  places: number[];
  /** Which gap, counted from 0, and how much too open it is; negative is too tight. */
  answer: number;
  by: number;
}

/** Two lines, and two others to lead alike. */
export interface LeadingExercise extends Dealt {
  kind: 'leading';
  /** The second line of the model, and both of those that are led. */
  below: DrillLine;
  own: readonly [DrillLine, DrillLine];
  /** Baseline to baseline of the model, and what one begins with. */
  answer: number;
  dealt: number;
}

/** Letters set so tight that one pair touches. */
export interface TouchExercise extends Dealt {
  kind: 'touch';
  places: number[];
  answer: number;
}

export type Exercise = PlaceExercise | EvenExercise | WrongExercise | LeadingExercise | TouchExercise;

/** The gaps that the answer aims at. */
export const aimOf = (line: DrillLine): readonly number[] => line[line.aim];

/** How uneven the better of two settings is, and how much worse the other, at hardness 0 and 1. */
const BETTER = 5;
const WORSE = [34, 9] as const;
/** How far a wrong gap is out, at hardness 0 and 1. */
const OUT = [75, 18] as const;
/** The clear distance of those that don't touch, at hardness 0 and 1, and how far those that do are one in another. */
const CLEAR = [22, 6] as const;
const TOUCHING = 3;
/** The share of the size below which inks nearly touch. */
const JUST = 1;
const LEADINGS = [950, 1400] as const;
const LEADING_OFF = 260;

const between = ([easy, hard]: readonly [number, number], hardness: number): number => easy + (hard - easy) * Math.max(0, Math.min(1, hardness));

/** Deals an exercise. @param plain a block with nothing adjusted: what would make one brings all of its schema along. @throws DrillError for words that can't be practised on, or where there are no faces */
export function dealFrom(plain: Block, request: DealRequest, faces: FaceSet): Exercise {
  const chance = chanceFrom(request.seed);
  const { level, seed, hardness } = request;
  const line = lineFor(plain, request, faces, chance);
  const dealt: Dealt = { level, seed, line };
  const aim = aimOf(line);
  switch (request.kind) {
    case 'place':
      return {
        ...dealt,
        kind: 'place',
        dealt: aim.map((place, i) => (i === 0 || i === aim.length - 1 ? place : inTenths(place + chance.between(-DEALT, DEALT)))),
      };
    case 'even': {
      const by = between(WORSE, hardness);
      const better = jittered(aim, BETTER, chance);
      const worse = jittered(aim, BETTER + by, chance);
      const answer = chance.of(['first', 'second'] as const);
      return { ...dealt, kind: 'even', first: answer === 'first' ? better : worse, second: answer === 'first' ? worse : better, answer, by: inTenths(by) };
    }
    case 'wrong': {
      const by = inTenths(between(OUT, hardness) * chance.of([-1, 1]));
      const answer = chance.of(line.gaps.map((_, i) => i));
      return { ...dealt, kind: 'wrong', places: aim.map((place, i) => inTenths(place + (i > answer ? by : 0))), answer, by };
    }
    case 'leading':
      return { ...dealt, kind: 'leading', ...leadings(plain, request, line, faces, chance) };
    case 'touch':
      return { ...dealt, kind: 'touch', ...glyphsTouch(plain, line, between(CLEAR, hardness), faces, chance) };
  }
}

/** Gaps changed by chance, their standard deviation exactly so much, both ends kept. */
function jittered(places: readonly number[], deviation: number, chance: Chance): number[] {
  const changes = places.slice(1).map(() => chance.normal(1));
  const usual = mean(changes);
  const spread = Math.sqrt(mean(changes.map((one) => (one - usual) ** 2)));
  return betweenEnds(
    places,
    changes.map((one) => (spread > 0 ? ((one - usual) * deviation) / spread : 0)),
  );
}

/** Faces whose kerning is known to be good, in an order by chance; one of the others where there are none. @throws DrillError where no face is at hand */
function facesOfLevel({ level, faces: offered }: DealRequest, faces: FaceSet, chance: Chance): string[] {
  const italic = level !== 'own' && levelOf(level).italic;
  const left = offered.filter((face) => face.italic === italic && faces.has(face.id)).map(({ id }) => id);
  const [any] = left;
  if (any === undefined) throw new DrillError(italic ? 'Practising needs an italic face.' : 'Practising needs a face.');
  const shuffled = left.map(() => left.splice(Math.floor(chance.next() * left.length), 1)).flat();
  const good = shuffled.filter((id) => hasGoodKerning(faces, id));
  return good.length > 0 ? good : [any];
}

function lineFor(plain: Block, request: DealRequest, faces: FaceSet, chance: Chance): DrillLine {
  if (request.own) return drillLineFrom(plain, request.own.words, request.own.faceId, faces);
  if (request.level === 'own') throw new DrillError('Type your own words first.');
  const { words } = levelOf(request.level);
  const offered = facesOfLevel(request, faces, chance);
  const { pair } = request;
  if (pair !== undefined) {
    // In the first face where words of the level hold such a pair, one of the three with the largest share of them.
    const share = (line: DrillLine): number => line.gaps.filter((gap) => gap.pair === pair).length / line.gaps.length;
    for (const faceId of offered) {
      const lines = words.map((one) => drillLineFrom(plain, one, faceId, faces)).filter((line) => share(line) > 0);
      if (lines.length > 0) return chance.of(lines.sort((a, b) => share(b) - share(a)).slice(0, 3));
    }
  }
  return drillLineFrom(plain, chance.of(words), offered[0] ?? '', faces);
}

function leadings(
  plain: Block,
  request: DealRequest,
  line: DrillLine,
  faces: FaceSet,
  chance: Chance,
): Pick<LeadingExercise, 'below' | 'own' | 'answer' | 'dealt'> {
  const words = request.level === 'own' ? [line.words] : levelOf(request.level).words;
  const another = (): DrillLine => drillLineFrom(plain, chance.of(words), line.faceId, faces);
  const answer = Math.round(chance.between(...LEADINGS));
  const off = chance.between(LEADING_OFF / 3, LEADING_OFF) * (1 - request.hardness / 2) * chance.of([-1, 1]);
  return { below: another(), own: [another(), another()], answer, dealt: Math.round(answer + off) };
}

/** Every gap closed until its inks are about as far apart as those of the others, but one until they touch; word spaces stay. */
function glyphsTouch(plain: Block, line: DrillLine, clear: number, faces: FaceSet, chance: Chance): Pick<TouchExercise, 'places' | 'answer'> {
  const shut = line.gaps.map(({ pair }) => (pair === null ? undefined : 0));
  // Inks that pass each other without coming nearer, as a mark under an arm, never just touch.
  const near = closedTo(plain, line, shut, faces).distances.flatMap((distance, i) => (distance !== undefined && distance <= JUST ? [i] : []));
  if (near.length === 0 || shut.filter((one) => one === 0).length < 2) throw new DrillError('Type at least two pairs of letters without a space.');
  const answer = chance.of(near);
  const wanted = shut.map((one, i) => (one === undefined || i === answer ? one : clear + chance.between(0, clear / 2)));
  const { places } = closedTo(plain, line, wanted, faces);
  return { places: places.map((place, i) => inTenths(i > answer ? place - TOUCHING : place)), answer };
}

/** The result of an answer. */
export const placed = (exercise: PlaceExercise, places: readonly number[]): Answer & { kind: 'place' } => {
  const { line } = exercise;
  const aim = aimOf(line);
  const off = aim.map((place, i) => inTenths((places[i] ?? place) - place));
  return {
    kind: 'place',
    letters: line.letters.slice(1, -1).map(({ text }, i) => ({ text, off: off[i + 1] ?? 0 })),
    gaps: line.gaps.map(({ text, pair }, i) => ({ text, pair, off: inTenths((off[i + 1] ?? 0) - (off[i] ?? 0)) })),
  };
};

/** The score of placed letters against one opinion of where they belong, 0 to 100. */
export function scoreAgainst(which: 'designer' | 'measured', { line }: PlaceExercise, { letters }: Answer & { kind: 'place' }): number {
  const [aim, places] = [aimOf(line), line[which]];
  return mean(letters.map(({ off }, i) => letterScore((aim[i + 1] ?? 0) + off - (places[i + 1] ?? 0))));
}

/** Which of two settings was taken for the more even. */
export const pickOne = (exercise: EvenExercise, which: 'first' | 'second'): Answer => ({ kind: 'even', right: which === exercise.answer, by: exercise.by });

/** Which gap was taken for the wrong one, or for that of the two that touch. */
export const pointedAt = (exercise: WrongExercise | TouchExercise, gap: number): Answer => {
  const common = { right: gap === exercise.answer, of: exercise.line.gaps.length, pair: exercise.line.gaps[exercise.answer]?.pair ?? null };
  return exercise.kind === 'wrong' ? { kind: 'wrong', ...common, by: exercise.by } : { kind: 'touch', ...common };
};

/** @param leading baseline to baseline, in thousandths of the size. */
export const led = ({ answer, dealt }: LeadingExercise, leading: number): Answer => ({
  kind: 'leading',
  off: inTenths(leading - answer),
  dealt: inTenths(dealt - answer),
});
