/** The schema of a path in a job file. Apart from what is done with paths: who sets lines needs no schemas. */
import * as z from 'zod';
import { finite, listOf } from './values';

/** A place in points from the top left corner of the block's frame as it is stated: a path moves with its block. */
const placeSchema = z.strictObject({ xPt: finite.min(-50_000).max(50_000), yPt: finite.min(-50_000).max(50_000) });
export type PathPoint = z.infer<typeof placeSchema>;

/** Which part of the words is held at a place of the path. */
export const HOLDS = ['start', 'centre', 'end'] as const;
/** How letters stand on a path: turned as it runs, or upright. */
export const STANCES = ['turned', 'upright'] as const;

/** How words stand on a path. */
const riding = {
  hold: z.enum(HOLDS).describe('The part of each line that is anchored at `atShare`'),
  atShare: finite.min(0).max(1).describe('The place along the path, as a share of its length'),
  side: z.enum(['above', 'below']).describe('Below, the capitals of the first line stand under the path'),
  distancePt: finite.min(-5000).max(5000).describe('Distance from the path'),
  letters: z.enum(STANCES),
  kerned: z.boolean().describe('Adjusts gaps to look as even as on a straight line'),
};

const curveSchema = z
  .strictObject({ from: placeSchema, to: placeSchema, end: placeSchema })
  .describe('A cubic Bézier curve from where the last ended: both handles, and its end');

/** One piece of a drawn path. */
export type PathPiece = z.infer<typeof curveSchema>;

export const pathSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('straight') }),
  z
    .strictObject({ kind: z.literal('arc'), start: placeSchema, through: placeSchema, end: placeSchema, ...riding })
    .describe('The arc of a circle through three places'),
  z
    .strictObject({
      kind: z.literal('circle'),
      centre: placeSchema,
      radiusPt: finite.min(1).max(50_000),
      inside: z.boolean().describe('Heads point to the centre; the words run the other way round'),
      ...riding,
    })
    .describe('Begins at the bottom; from inside, at the top'),
  z
    .strictObject({
      kind: z.literal('wave'),
      start: placeSchema,
      end: placeSchema,
      heightPt: finite.min(-5000).max(5000).describe('From crest to trough; negative begins downwards'),
      waves: finite.min(0.25).max(50),
      ...riding,
    })
    .describe('A sine along the line between two places'),
  z.strictObject({ kind: z.literal('drawn'), start: placeSchema, curves: listOf(curveSchema, 500, 1), ...riding }),
  z
    .strictObject({ kind: z.literal('stacked'), columns: z.enum(['rightwards', 'leftwards']).describe('Where the next column stands') })
    .describe('Letters one below the other'),
  z.strictObject({ kind: z.literal('quarter'), turn: z.enum(['clockwise', 'anticlockwise']) }).describe('Lines turned a quarter'),
]);
export type Path = z.infer<typeof pathSchema>;
export type PathKind = Path['kind'];
/** Paths that words ride on. */
export type Ride = Extract<Path, { atShare: number }>;
export type Arc = Extract<Path, { kind: 'arc' }>;
