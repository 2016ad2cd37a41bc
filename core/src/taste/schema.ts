/** The hand of a designer as it is kept: apart from what is done with it, which needs no schema. Values in 1/1000 em. */
import * as z from 'zod';

/** The kept sums of decisions about one kind of pair, in (1/1000 em)². */
const decidedSchema = z.strictObject({
  decisions: z.int().min(0).max(100_000),
  asked: z.number().min(0).max(1e12).describe('Sum of squares of what was proposed'),
  given: z.number().min(-1e12).max(1e12).describe('Sum of what was proposed times what was decided'),
  spread: z.number().min(0).max(1e12).describe('Sum of squares of what was decided'),
});
export type Decided = z.infer<typeof decidedSchema>;

export const tasteSchema = z.strictObject({
  /** Whether proposals follow it. */
  on: z.boolean().default(true),
  kinds: z.record(z.string().max(40), decidedSchema).default({}),
});
export type Taste = z.infer<typeof tasteSchema>;
