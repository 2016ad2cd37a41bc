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
      jobId: id.nullable().describe('Another job’s; this one’s where it is null'),
      pullId: id.nullable().describe('As it was in a pull of this job; as it is where it is null'),
      sheetId: id,
    }),
  ]),
  xPt: finite.min(-50_000).max(50_000).describe('Where its top left corner lies on the sheet'),
  yPt: finite.min(-50_000).max(50_000),
  scale: finite.min(0.001).max(1000).describe('Points of the sheet for each of its pixels, or points'),
  turnDeg: finite.min(-360).max(360).describe('Clockwise, around its top left corner'),
  opacity: finite.min(0.05).max(1),
  side: z.enum(REFERENCE_SIDES),
  locked: z.boolean(),
});
export type Reference = z.infer<typeof referenceSchema>;
