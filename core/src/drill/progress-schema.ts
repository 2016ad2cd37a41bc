/** The schema of progress, as the API answers it. Lengths in 1/1000 em, scores 0 to 100. */
import * as z from 'zod';
import { LEVEL_IDS } from './levels';
import { EXERCISES, resultSchema } from './score';

const scoreSchema = z.number().min(0).max(100);
const count = z.int().min(0);

/** Progress with gaps of one kind. */
const pairProgressSchema = z.object({
  pair: z.string(),
  gaps: count,
  bias: z.number().describe('How much more open they are left than other kinds; negative is tighter'),
  error: z.number().describe('Standard error of the bias'),
  off: z.number().describe('Mean error, in either direction'),
});
export type PairProgress = z.infer<typeof pairProgressSchema>;

const adviceSchema = z.object({
  says: z.string(),
  about: z.enum(['begin', 'pair', 'level', 'exercise']),
  next: z.object({ kind: z.enum(EXERCISES), level: z.enum(LEVEL_IDS), pair: z.string().optional() }),
});
export type Advice = z.infer<typeof adviceSchema>;

export const progressSchema = z.object({
  count,
  exercises: z.array(
    z.object({
      kind: z.enum(EXERCISES),
      count,
      score: scoreSchema,
      chance: scoreSchema.describe('The score chance would give'),
      hardness: z.number().min(0).max(1).describe('Of the next one'),
    }),
  ),
  levels: z.array(z.object({ level: z.enum(LEVEL_IDS), count, score: scoreSchema.describe('Mean of the last five words placed') })),
  weeks: z.array(z.object({ monday: z.iso.date(), count, score: scoreSchema })),
  streak: z.object({ best: count, now: count }).describe('Answers of 80 or more in a row'),
  pairs: z.array(pairProgressSchema),
  advice: adviceSchema,
});
export type Progress = z.infer<typeof progressSchema>;

/** A result as it is kept, and what it is worth. */
export const keptResultSchema = z.object({ id: z.string(), score: scoreSchema, result: resultSchema });
export type KeptResult = z.infer<typeof keptResultSchema>;
export const resultPageSchema = z.object({ items: z.array(keptResultSchema), total: z.int(), page: z.int(), pageSize: z.int() });

/** Query of the results, newest first. */
export const resultQuerySchema = z.object({
  page: z.coerce.number().int().min(1).max(1_000_000).default(1),
  pageSize: z.coerce.number().int().min(1).max(100).default(20),
});
