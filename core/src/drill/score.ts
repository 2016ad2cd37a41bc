/** The schema of an answer, as it is sent and kept; `worth.ts` scores it. */
import * as z from 'zod';
import type { StoredKind } from '../stored';
import { LEVEL_IDS } from './levels';
import { leadingScore, letterScore, mean } from './worth';

export * from './worth';

/** Off by this much at most counts: what is farther was never meant. */
const offSchema = z.number().min(-5000).max(5000);
const pairSchema = z.string().max(40).nullable();

/** An answer without its score, which follows from it. All lengths in 1/1000 em. */
export const drillAnswerSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('place'),
    letters: z
      .array(z.strictObject({ text: z.string().min(1).max(20), off: offSchema.describe('How far right of its place; negative is left') }))
      .min(1)
      .max(30),
    gaps: z
      .array(z.strictObject({ text: z.string().max(40), pair: pairSchema, off: offSchema.describe('How much too open; negative is too tight') }))
      .min(2)
      .max(31),
  }),
  z.strictObject({ kind: z.literal('even'), right: z.boolean(), by: z.number().min(0).max(1000).describe('How much more uneven one was') }),
  z.strictObject({
    kind: z.literal('wrong'),
    right: z.boolean(),
    of: z.int().min(2).max(40).describe('How many gaps there were'),
    pair: pairSchema.describe('Of the gap that was wrong'),
    by: offSchema.describe('How much too open it was; negative is too tight'),
  }),
  z.strictObject({
    kind: z.literal('leading'),
    off: offSchema.describe('How much too far apart, in 1/1000 of the size'),
    dealt: offSchema.describe('The same before the first move'),
  }),
  z.strictObject({ kind: z.literal('touch'), right: z.boolean(), of: z.int().min(2).max(40), pair: pairSchema }),
]);
export type Answer = z.infer<typeof drillAnswerSchema>;

/** The kept record of a finished exercise. */
export const resultSchema = z.strictObject({
  level: z.enum([...LEVEL_IDS, 'own']),
  faceId: z.string().max(200),
  words: z.string().min(1).max(200),
  /** When it was done, as ISO 8601. */
  at: z.iso.datetime({ offset: true }),
  /** How long it took, where a clock was asked for. */
  seconds: z.number().min(0).max(86_400).nullable(),
  answer: drillAnswerSchema,
});
/** How results are stored. */
export const STORED_RESULT: StoredKind<typeof resultSchema> = { name: 'result of an exercise', version: 1, schema: resultSchema, upgrade: (value) => value };
export type DrillResult = z.infer<typeof resultSchema>;

/** 0 to 100. */
export function scoreOf(answer: Answer): number {
  switch (answer.kind) {
    case 'place':
      return mean(answer.letters.map(({ off }) => letterScore(off)));
    case 'leading':
      return leadingScore(answer.off);
    default:
      return answer.right ? 100 : 0;
  }
}
