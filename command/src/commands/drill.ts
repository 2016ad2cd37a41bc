/** `jentrix drill`: exercises to train the eye, dealt, scored, and played by the numbers. */
import * as z from 'zod';
import {
  DEALT,
  EXERCISES,
  type Exercise,
  LEAST_WORD_LETTERS,
  LEVEL_IDS,
  chanceScore,
  oneOf,
  deal,
  led,
  placed,
  playRounds,
  pointedAt,
  resultSchema,
  scoreAgainst,
  scoreOf,
} from '@jentrix/core/drill';
import { progressOf } from '@jentrix/core/drill/progress';
import type { FaceSet } from '@jentrix/core/setting';
import { SIDE_KINDS } from '@jentrix/core/spacing';
import { pairKind } from '@jentrix/core/taste';
import { type Command, numberOf, glyphText } from '../command';
import { allFaces, openFontFile } from '../fonts';
import type { Values } from '../options';
import { UsageError } from '../usage-error';

export const drill: Command = {
  name: 'drill',
  usage: [
    'deal [--kind NAME] [--practise LEVEL] [--text TEXT [--font FILE]] [--pair KIND] [--hardness H] [--seed N] [--faces DIR]',
    'score EXERCISE.json ANSWER.json',
    'play [--bias LIST] [--deviation N] [--idle] [--rounds N] [--seed N] [--faces DIR]',
    'progress RESULTS.json',
  ],
  says:
    'Trains the eye. deal writes an exercise as JSON, all lengths in 1/1000 em: letters to place (first and last are given), which of two settings is ' +
    'more even, which gap is wrong, a leading to match, which pair touches. score says what an answer to it is worth, letters against the designer’s and the measured spacing: { "places": [...] }, { "which": ' +
    '"first" }, { "gap": 2 } or { "leading": 1180 }. play has letters placed by a player with a known bias by kind of pair and tells the score, what ' +
    'chance would score, and the advice. progress tells the same of results that were kept.',
  example: 'play --bias "round to straight=20" --deviation 5 --rounds 60',
  options: ['kind', 'practise', 'text', 'font', 'pair', 'hardness', 'seed', 'faces', 'bias', 'deviation', 'idle', 'rounds'],
  async run(values, [task, ...files], { out }) {
    const print = (value: unknown): number => {
      out(`${JSON.stringify(value, null, 2)}\n`);
      return 0;
    };
    switch (task) {
      case 'deal':
        return print(await dealt(values));
      case 'score': {
        const [exercise, answer, more] = files;
        if (exercise === undefined || answer === undefined || more !== undefined) throw new UsageError('Two files are needed: the exercise and the answer.');
        const dealt = exerciseIn(exercise);
        const given = answerTo(dealt, answerSchema.safeParse(jsonOf(answer)));
        const both =
          dealt.kind === 'place' && given.kind === 'place'
            ? { designer: scoreAgainst('designer', dealt, given), measured: scoreAgainst('measured', dealt, given) }
            : {};
        return print({ score: scoreOf(given), ...both, answer: given });
      }
      case 'play': {
        const faces = await facesIn(values.faces);
        const player = { bias: biasOf(values.bias), deviation: numberOf('deviation', values.deviation, 0, 1000), idle: values.idle };
        const rounds = Math.round(numberOf('rounds', values.rounds, 1, 5000));
        const progress = progressOf(playRounds(player, { rounds, seed: seedOf(values), faces: faces.offered }, faces.set));
        return print({ score: progress.exercises.find(({ kind }) => kind === 'place')?.score, chance: chanceScore(DEALT), progress });
      }
      case 'progress': {
        const [path, more] = files;
        if (path === undefined || more !== undefined) throw new UsageError('One file of results is needed.');
        const results = z.array(resultSchema).max(100_000).safeParse(jsonOf(path));
        if (!results.success) throw new UsageError(`“${path}”: ${results.error.issues[0]?.path.join('.') ?? ''} ${results.error.issues[0]?.message ?? ''}`);
        return print(progressOf(results.data));
      }
      default:
        throw new UsageError('Say what: deal, score, play or progress.');
    }
  },
};

const places = z.array(z.number()).max(100);
const lineSchema = z.looseObject({
  letters: z.array(z.looseObject({ text: z.string() })).min(LEAST_WORD_LETTERS),
  gaps: z.array(z.looseObject({ text: z.string(), pair: z.string().nullable() })),
  designer: places,
  measured: places,
  aim: z.enum(['designer', 'measured']),
});
/** The part of an exercise that an answer is scored against. */
const exerciseSchema = z.discriminatedUnion('kind', [
  z.looseObject({ kind: z.literal('place'), line: lineSchema }),
  z.looseObject({ kind: z.literal('even'), line: lineSchema, answer: z.enum(['first', 'second']), by: z.number() }),
  z.looseObject({ kind: z.literal('wrong'), line: lineSchema, answer: z.int(), by: z.number() }),
  z.looseObject({ kind: z.literal('touch'), line: lineSchema, answer: z.int() }),
  z.looseObject({ kind: z.literal('leading'), answer: z.number(), dealt: z.number() }),
]);

/** @throws UsageError for a file that is no exercise */
function exerciseIn(path: string): Exercise {
  const read = exerciseSchema.safeParse(jsonOf(path));
  if (!read.success) throw new UsageError(`“${path}” is no exercise: ${read.error.issues[0]?.path.join('.') ?? ''} ${read.error.issues[0]?.message ?? ''}`);
  return read.data as unknown as Exercise;
}

const answerSchema = z.union([
  z.strictObject({ places }),
  z.strictObject({ which: z.enum(['first', 'second']) }),
  z.strictObject({ gap: z.int().min(0).max(100) }),
  z.strictObject({ leading: z.number() }),
]);

/** @throws UsageError for an answer to another kind of exercise */
function answerTo(exercise: Exercise, read: z.ZodSafeParseResult<z.infer<typeof answerSchema>>): ReturnType<typeof led> {
  const given = read.data;
  if (exercise.kind === 'place' && given && 'places' in given) {
    if (given.places.length !== exercise.line.letters.length) throw new UsageError(`${exercise.line.letters.length} places are needed, one a letter.`);
    return placed(exercise, given.places);
  }
  if (exercise.kind === 'even' && given && 'which' in given) return oneOf(exercise, given.which);
  if ((exercise.kind === 'wrong' || exercise.kind === 'touch') && given && 'gap' in given) return pointedAt(exercise, given.gap);
  if (exercise.kind === 'leading' && given && 'leading' in given) return led(exercise, given.leading);
  throw new UsageError('The answer does not fit the exercise.');
}

/** @throws UsageError */
function jsonOf(path: string): unknown {
  try {
    return JSON.parse(glyphText(path));
  } catch (error) {
    if (error instanceof UsageError) throw error;
    throw new UsageError(`“${path}” is not JSON.`);
  }
}

const seedOf = ({ seed }: Values): number => Math.round(numberOf('seed', seed, 0, 2 ** 31));

async function facesIn(folder: string): Promise<{ set: FaceSet; offered: { id: string; italic: boolean }[] }> {
  const { faces, ids } = await allFaces(folder);
  return { set: faces, offered: ids.map((id) => ({ id, italic: faces.instance({ faceId: id, axes: {} }).face.posture.italic })) };
}

/** The name used for the face of a font file. */
const OWN = 'font file';

async function dealt(values: Values): Promise<Exercise> {
  const kind = EXERCISES.find((one) => one === values.kind);
  if (!kind) throw new UsageError(`--kind is one of ${EXERCISES.join(', ')}.`);
  const level = LEVEL_IDS.find((one) => one === values.practise);
  if (!level) throw new UsageError(`--practise is one of ${LEVEL_IDS.join(', ')}.`);
  const { set, offered } = await facesIn(values.faces);
  if (values.font !== undefined) set.add(OWN, await openFontFile(values.font));
  const faceId = values.font === undefined ? offered[0]?.id : OWN;
  const own = values.text === undefined || faceId === undefined ? undefined : { words: values.text, faceId };
  return deal(
    {
      kind,
      level: own ? 'own' : level,
      seed: seedOf(values),
      faces: offered,
      own,
      pair: values.pair === undefined ? undefined : kindOfPair(values.pair),
      hardness: numberOf('hardness', values.hardness, 0, 1),
    },
    set,
  );
}

/** A kind of pair as it is written, whichever side is named first. @throws UsageError */
function kindOfPair(text: string): string {
  const [left, right] = text.split(' to ').map((side) => SIDE_KINDS.find((kind) => kind === side.trim()));
  const kind = pairKind(left, right);
  if (kind === undefined) throw new UsageError(`A kind of pair is written “round to straight”, of ${SIDE_KINDS.join(', ')}; not “${text}”.`);
  return kind;
}

/** `round to straight=20,open to round=-8` @throws UsageError */
function biasOf(text: string | undefined): Record<string, number> {
  if (text === undefined) return {};
  return Object.fromEntries(
    text.split(',').map((part): [string, number] => {
      const [kind, amount, more] = part.split('=');
      if (kind === undefined || amount === undefined || more !== undefined) throw new UsageError(`--bias is written “round to straight=20”, not “${part}”.`);
      return [kindOfPair(kind.trim()), numberOf('bias', amount, -500, 500)];
    }),
  );
}
