import { z } from 'zod';

const step = (max: number) => z.number().min(0.1).max(max);

/** What a person has set for themselves; every value has a default, so that an empty object is complete. */
export const preferencesSchema = z.strictObject({
  /** Fine and coarse step of kerning, tracking and word space, in 1/1000 em. */
  fineMilliem: step(200).default(2),
  coarseMilliem: step(500).default(10),
  /** Fine and coarse step of leading, in points. */
  fineLeadingPt: step(50).default(0.5),
  coarseLeadingPt: step(200).default(4),
});
export type Preferences = z.infer<typeof preferencesSchema>;

export const DEFAULT_PREFERENCES: Preferences = preferencesSchema.parse({});
