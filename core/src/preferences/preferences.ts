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
  /** How far copy can be tightened unseen, until it shows, until it is wrong, in 1/1000 em. */
  cautionMilliem: z.number().min(-500).max(0).default(-15),
  strongMilliem: z.number().min(-500).max(0).default(-30),
  outMilliem: z.number().min(-500).max(0).default(-50),
});
export type Preferences = z.infer<typeof preferencesSchema>;

/** The tracking limits among the preferences, in order whatever was typed. */
export function limitsOf({ cautionMilliem, strongMilliem, outMilliem }: Preferences): { caution: number; strong: number; out: number } {
  const strong = Math.min(cautionMilliem, strongMilliem);
  return { caution: cautionMilliem, strong, out: Math.min(strong, outMilliem) };
}

export const DEFAULT_PREFERENCES: Preferences = preferencesSchema.parse({});
