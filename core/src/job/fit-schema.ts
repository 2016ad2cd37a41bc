/** The schema of fit, line breaks and edges in a job file. Apart from what is done with it: who sets lines needs no schemas. */
import * as z from 'zod';
import { finite, idSchema, listOf, milliem } from './values';

const place = finite.min(-50_000).max(50_000);

/** The source of a width: the block's frame, the margins of its sheet, two places across the sheet, the ink of another block or of one of its lines, or a number. */
export const fitTargetSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('frame') }),
  z.strictObject({ kind: z.literal('margins') }),
  z.strictObject({ kind: z.literal('between'), leftPt: place, rightPt: place }).describe('Two guides, or any two places of the sheet'),
  z.strictObject({
    kind: z.literal('block'),
    id: idSchema,
    line: z.int().min(0).max(10_000).nullable().describe('Counted from 0; the whole block where it is null'),
  }),
  z.strictObject({ kind: z.literal('pt'), pt: finite.min(1).max(50_000) }),
]);
export type FitTarget = z.infer<typeof fitTargetSchema>;

const lever = (limit: z.ZodType<number>) =>
  z.strictObject({
    share: finite.min(0).max(1).describe('The weight of this lever beside the others; 0 turns it off'),
    least: limit,
    most: limit,
  });

/** The levers that change the width of a line. Limits are changes: factors of size and of the letters' width, 1/1000 em of letter and word space. */
export const leversSchema = z.strictObject({
  size: lever(finite.min(0.02).max(50)),
  letters: lever(milliem),
  words: lever(milliem),
  width: lever(finite.min(0.1).max(10)),
});
export type Levers = z.infer<typeof leversSchema>;
export type LeverName = keyof Levers;

export const fitSchema = z.strictObject({
  to: fitTargetSchema.nullable().describe('The width lines are fitted to; null leaves widths alone'),
  lines: z.union([z.literal('all'), listOf(z.int().min(0).max(10_000), 1000)]).describe('Which lines, counted from 0'),
  by: leversSchema,
  ink: z.boolean().describe('Measured from ink to ink; otherwise between side bearings'),
  overshoot: finite.min(0).max(1).describe('The share of optical overshoot for round and pointed ends'),
  steps: z.boolean().describe('Sizes in tenths of a point; tracking takes the rest'),
  even: z
    .union([z.boolean(), z.enum(['flat', 'ink'])])
    .describe('Even spacing between lines: by flat edges (cap line to baseline) or by ink; true chooses by the lines'),
  height: z
    .discriminatedUnion('kind', [z.strictObject({ kind: z.literal('frame') }), z.strictObject({ kind: z.literal('pt'), pt: finite.min(1).max(50_000) })])
    .nullable()
    .describe('The height of all lines together, by leading; null leaves leading alone'),
});
export type Fit = z.infer<typeof fitSchema>;

/** Ways to find the ends of lines: each as full as it can be, all as even as can be, or with the least sum of bad spaces. */
export const BREAKINGS = ['greedy', 'even', 'total'] as const;
export const RAG_SHAPES = ['even', 'widening', 'narrowing'] as const;
export type RagShape = (typeof RAG_SHAPES)[number];

export const breakingSchema = z.strictObject({
  way: z.enum(BREAKINGS),
  shape: z.enum(RAG_SHAPES).describe('The shape of balanced lines, from first to last'),
});
export type Breaking = z.infer<typeof breakingSchema>;

/** How justified lines are filled once their word spaces have opened as far as they should. */
export const justifySchema = z.strictObject({
  lettersMilliem: finite.min(0).max(200).describe('The range of letter space, ± in 1/1000 em'),
  width: finite.min(0).max(0.02).describe('The range of letter width, ± as a share'),
  last: z.enum(['natural', 'full']).describe('The last line of a paragraph'),
});
export type Justify = z.infer<typeof justifySchema>;

/** A stretch of words that was tightened so that a line takes in one more: tracking on top of its style’s, marked so that it can be reset. */
export const tightenedSchema = z.strictObject({ start: z.int().min(0), end: z.int().min(1), milliem });
export type Tightened = z.infer<typeof tightenedSchema>;

/** Marks that can hang outside the edge, by kind. */
export const HANG_KINDS = ['quotes', 'points', 'dashes', 'bullets', 'numbers'] as const;
export type HangKind = (typeof HANG_KINDS)[number];

const share = finite.min(0).max(1);

export const edgesSchema = z.strictObject({
  hang: z
    .strictObject({ quotes: share, points: share, dashes: share, bullets: share, numbers: share })
    .describe('The share of each kind of mark that hangs outside the edge'),
  optical: share.describe('From metric edges, 0, to optical edges, 1'),
});
export type Edges = z.infer<typeof edgesSchema>;

/** A line that stands farther right (or left) than its alignment says, anchored to its first letter. */
export const lineIndentSchema = z.strictObject({ at: z.int().min(0), byPt: finite.min(-5000).max(5000) });
export type LineIndent = z.infer<typeof lineIndentSchema>;
