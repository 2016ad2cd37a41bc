/** The schema of a sheet's reference, which is never handed over: a picture, or another sheet. */
import * as z from 'zod';
import { finite, idSchema } from './values';

/** Where a reference lies: among the sheet's ground and its words, over both, or beside the sheet. */
export const REFERENCE_SIDES = ['under', 'over', 'beside'] as const;
export type ReferenceSide = (typeof REFERENCE_SIDES)[number];

/** How far from the sheet's corner a reference lies, in points, and how much smaller or larger it is than itself. */
export const FARTHEST_PT = 50_000;
export const [LEAST_SCALE, MOST_SCALE] = [0.001, 1000];

const size = finite.min(1).max(60_000_000);

export const referenceSchema = z.strictObject({
  of: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('picture'), pictureId: idSchema, widthPx: size, heightPx: size }),
    z.strictObject({
      kind: z.literal('sheet'),
      // Another job’s, or as it was in a pull of this one; of this job as it is where both are null.
      jobId: idSchema.nullable(),
      pullId: idSchema.nullable(),
      sheetId: idSchema,
    }),
  ]),
  // Where its top left corner lies on the sheet.
  xPt: finite.min(-FARTHEST_PT).max(FARTHEST_PT),
  yPt: finite.min(-FARTHEST_PT).max(FARTHEST_PT),
  // Points of the sheet for each of its pixels, or points.
  scale: finite.min(LEAST_SCALE).max(MOST_SCALE),
  // Clockwise, around its top left corner.
  turnDeg: finite.min(-360).max(360),
  opacity: finite.min(0.05).max(1),
  side: z.enum(REFERENCE_SIDES),
  locked: z.boolean(),
});
export type Reference = z.infer<typeof referenceSchema>;
