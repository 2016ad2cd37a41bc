/** What lies with a sheet to be matched, and is never handed over: a picture, or another sheet. */
import * as z from 'zod';
import { finite, id } from './values';

/** Where a reference lies: among the sheet's ground and its words, over both, or beside the sheet. */
export const REFERENCE_SIDES = ['under', 'over', 'beside'] as const;
export type ReferenceSide = (typeof REFERENCE_SIDES)[number];

const size = finite.min(1).max(100_000);

export const referenceSchema = z.strictObject({
  of: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('picture'), pictureId: id, widthPx: size, heightPx: size }),
    z.strictObject({
      kind: z.literal('sheet'),
      // Another job’s, or as it was in a pull of this one; of this job as it is where both are null.
      jobId: id.nullable(),
      pullId: id.nullable(),
      sheetId: id,
    }),
  ]),
  // Where its top left corner lies on the sheet.
  xPt: finite.min(-50_000).max(50_000),
  yPt: finite.min(-50_000).max(50_000),
  // Points of the sheet for each of its pixels, or points.
  scale: finite.min(0.001).max(1000),
  // Clockwise, around its top left corner.
  turnDeg: finite.min(-360).max(360),
  opacity: finite.min(0.05).max(1),
  side: z.enum(REFERENCE_SIDES),
  locked: z.boolean(),
});
export type Reference = z.infer<typeof referenceSchema>;
