/** The document. Every value from outside (file, HTTP body, storage, worker) passes through these schemas. */
import * as z from 'zod';
import { LENGTH_UNITS, type Leading } from '../units';
import { breakingSchema, edgesSchema, fitSchema, justifySchema, lineIndentSchema, tightenedSchema } from './fit-schema';
import { LIMITS } from './limits';
import { languageSchema } from './language';
import { pathSchema } from './path-schema';
import { referenceSchema } from './reference-schema';
import { styleSchema } from './style';
import { colourSchema, finite, idSchema, listOf, milliem } from './values';

/** Version of the job file format that this code writes. */
export const JOB_VERSION = 11;

/** Alignment of the lines in their frame; justified ones but the last of a paragraph are as wide as it. */
export const ALIGNMENTS = ['left', 'centre', 'right', 'justified'] as const;
export type Align = (typeof ALIGNMENTS)[number];

/** A stretch of words, in UTF-16 offsets. */
export interface WordRange {
  start: number;
  end: number;
}

/** A stretch of the words, in UTF-16 offsets, whose style departs from the block's. */
export const runSchema = z.strictObject({
  start: z.int().min(0),
  end: z.int().min(1),
  style: styleSchema.partial(),
});
export type Run = z.infer<typeof runSchema>;

/** A hand kerning value, anchored to the place in the words before code unit `at`. */
export const handKernSchema = z.strictObject({
  at: z.int().min(1).describe('UTF-16 offset: the gap lies between the letters that end and begin here'),
  milliem: milliem.describe('1/1000 em of the letter left of the gap; positive opens'),
});
export type HandKern = z.infer<typeof handKernSchema>;

/** A finding that the designer has looked at and wants as it is, anchored like hand kerning. */
export const intendedSchema = z.strictObject({
  rule: idSchema.describe('Identifier of the finding rule'),
  at: z.int().min(0).describe('UTF-16 offset of the place, 0 for the whole block'),
});

export const leadingSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('pt'), pt: finite.min(0).max(10_000) }),
  z.strictObject({ kind: z.literal('multiple'), factor: finite.min(0).max(20) }),
  z.strictObject({ kind: z.literal('auto'), factor: finite.min(0.5).max(3).optional().describe('What the size is multiplied by; 1.2 where it is absent') }),
]) satisfies z.ZodType<Leading>;

/** Position and width of a block on its sheet, from the sheet's top left corner, in points. */
export const frameSchema = z.strictObject({
  xPt: finite.min(-50_000).max(50_000),
  yPt: finite.min(-50_000).max(50_000),
  widthPt: finite.min(1).max(50_000),
  heightPt: finite.min(1).max(50_000),
});
export type Frame = z.infer<typeof frameSchema>;

/** How a frame follows its words: in both directions (lines break only where told), downwards, or not at all (an ellipsis tells that words are cut). */
export const GROWTHS = ['both', 'down', 'fixed'] as const;
export type Growth = (typeof GROWTHS)[number];

/** Where the words stand in a frame that is higher than they are. */
export const VERTICALS = ['top', 'middle', 'bottom'] as const;
export type Vertical = (typeof VERTICALS)[number];

export const paragraphSchema = z.strictObject({
  indentPt: finite.min(-5000).max(5000).describe('First-line indent'),
  beforePt: finite.min(0).max(5000).describe('Space before a paragraph, but not before the first'),
  afterPt: finite.min(0).max(5000).describe('Space after a paragraph, but not after the last'),
  list: z.enum(['none', 'bullet', 'number']).describe('Marks that hang left of every paragraph'),
});
export type Paragraph = z.infer<typeof paragraphSchema>;

/** More (or less) leading above one line, anchored to the line's first letter; without effect while that letter begins no line. */
export const lineLeadingSchema = z.strictObject({ at: z.int().min(1), byPt: finite.min(-5000).max(5000) });

/** Hand kerning that was made for another face and waits until that face returns. */
export const parkedSchema = z.strictObject({ faceId: idSchema, hand: listOf(handKernSchema, LIMITS.hand) });

/** Larger first and last letters, as one setting: what the words and their runs say stays as it is. */
export const endsSchema = z.strictObject({
  of: z.enum(['words', 'lines']),
  which: z.enum(['first', 'last', 'both']),
  ratio: finite.min(0.2).max(5).describe('A share of the letter’s size'),
  align: z.enum(['foot', 'middle', 'top']).describe('Where end capitals align with their neighbours'),
});
export type Ends = z.infer<typeof endsSchema>;

export const blockSchema = z
  .strictObject({
    id: idSchema,
    frame: frameSchema,
    words: z.string().max(LIMITS.words),
    style: styleSchema,
    runs: listOf(runSchema, LIMITS.runs).describe('Sorted, not overlapping'),
    align: z.enum(ALIGNMENTS),
    leading: leadingSchema,
    hand: listOf(handKernSchema, LIMITS.hand).describe('Sorted by place, one value a place'),
    intended: listOf(intendedSchema, LIMITS.hand).describe('Findings the designer ignores'),
    grow: z.enum(GROWTHS),
    vertical: z.enum(VERTICALS),
    trim: z.boolean().describe('The frame ends at cap height and baseline instead of ascender and descender'),
    rotationDeg: finite.min(-360).max(360).describe('Clockwise, around the middle of the frame'),
    locked: z.boolean(),
    paragraph: paragraphSchema,
    parked: listOf(parkedSchema, 50),
    lineLeading: listOf(lineLeadingSchema, 2000).describe('Sorted by place, one value a place'),
    recipeId: idSchema.nullable().describe('The recipe the block follows; settings that differ are its overrides'),
    language: languageSchema.nullable().describe('The language of its words; the job’s where it is null'),
    path: pathSchema,
    ends: endsSchema.nullable().describe('End letters of another size'),
    fit: fitSchema.nullable().describe('The width its lines are fitted to, and their height together'),
    breaking: breakingSchema.describe('How its lines are broken'),
    justify: justifySchema,
    tightened: listOf(tightenedSchema, 500).describe('Sorted, not overlapping'),
    edges: edgesSchema.nullable().describe('How its edges are aligned; metric where it is null'),
    lineIndents: listOf(lineIndentSchema, 2000).describe('Sorted by place, one value a place'),
    part: idSchema.nullable().describe('Blocks of one part share words and recipe on all sheets'),
  })
  .superRefine((block, context) => {
    let previous = 0;
    for (const [i, run] of block.runs.entries()) {
      if (run.start < previous || run.end <= run.start || run.end > block.words.length) {
        context.addIssue({ code: 'custom', path: ['runs', i], message: 'Runs must be sorted, separate and inside the words.' });
      }
      previous = run.end;
    }
    previous = 0;
    for (const [i, { start, end }] of block.tightened.entries()) {
      if (start < previous || end <= start || end > block.words.length) {
        context.addIssue({ code: 'custom', path: ['tightened', i], message: 'Tightened ranges must be sorted, separate and inside the words.' });
      }
      previous = end;
    }
    previous = 0;
    for (const [i, kern] of block.hand.entries()) {
      if (kern.at <= previous || kern.at >= block.words.length) {
        context.addIssue({ code: 'custom', path: ['hand', i], message: 'Manual kerning must be sorted and lie between two letters.' });
      }
      previous = kern.at;
    }
  });
export type Block = z.infer<typeof blockSchema>;

export const marginsSchema = z.strictObject({
  topPt: finite.min(0).max(20_000),
  rightPt: finite.min(0).max(20_000),
  bottomPt: finite.min(0).max(20_000),
  leftPt: finite.min(0).max(20_000),
});

const place = finite.min(-20_000).max(40_000);
const pointSchema = z.strictObject({ xPt: place, yPt: place });

/** A line to align to, in points from the sheet's left and top: upright (`x`), level (`y`), or a rule drawn along something on the picture. */
export const guideSchema = z.discriminatedUnion('axis', [
  z.strictObject({ axis: z.literal('x'), atPt: place }),
  z.strictObject({ axis: z.literal('y'), atPt: place }),
  z.strictObject({ axis: z.literal('rule'), from: pointSchema, to: pointSchema }),
]);
export type Guide = z.infer<typeof guideSchema>;

export const backgroundSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('colour'), colour: colourSchema }),
  z.strictObject({ kind: z.literal('gradient'), from: colourSchema, to: colourSchema, angleDeg: finite.min(0).max(360) }),
  z.strictObject({
    kind: z.literal('picture'),
    pictureId: idSchema,
    fit: z.enum(['cover', 'contain']),
    colour: colourSchema.describe('The colour where the picture does not reach'),
  }),
]);
export type Background = z.infer<typeof backgroundSchema>;

const sheetFields = {
  id: idSchema,
  name: z.string().max(200),
  widthPt: finite.min(1).max(20_000),
  heightPt: finite.min(1).max(20_000),
  unit: z.enum(LENGTH_UNITS).describe('The unit people see this sheet in'),
  margins: marginsSchema,
  background: backgroundSchema,
  guides: listOf(guideSchema, 200),
  safeShare: finite.min(0).max(0.4).describe('Title-safe area: the share of width and height kept free on every side; 0 shows none'),
  centreLines: z.boolean(),
};

/** A sheet of blocks that a schema reads. */
const sheetOfBlocks = <B extends z.ZodType>(block: B) =>
  z.strictObject({ ...sheetFields, blocks: listOf(block, LIMITS.blocks).describe('Painted in this order'), reference: referenceSchema.nullable() });

export const sheetSchema = sheetOfBlocks(blockSchema);
export type Sheet = z.infer<typeof sheetSchema>;

/** Where a pair rule holds. */
export const pairScopeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('block'), id: idSchema }),
  z.strictObject({ kind: z.literal('sheet'), id: idSchema }),
  z.strictObject({ kind: z.literal('job') }),
]);
export type PairScope = z.infer<typeof pairScopeSchema>;

/** One hand value for every occurrence of a pair. */
export const pairRuleSchema = z.strictObject({
  left: z.string().min(1).max(32).describe('The left letter, one grapheme'),
  right: z.string().min(1).max(32).describe('The right letter, one grapheme'),
  faceId: idSchema.describe('The face the value was made for'),
  milliem: milliem.describe('1/1000 em of the left letter; positive opens'),
  scope: pairScopeSchema,
});
export type PairRule = z.infer<typeof pairRuleSchema>;

/** Kinds of work, for the shelf. */
export const JOB_KINDS = ['poster', 'slides', 'social', 'flyer', 'other'] as const;

const wholeJobOf = <B extends z.ZodType<{ id: string }>>(block: B) =>
  z
    .strictObject({
      format: z.literal('jentrix.job'),
      version: z.literal(JOB_VERSION),
      title: z.string().trim().min(1).max(200),
      kind: z.enum(JOB_KINDS),
      language: languageSchema.nullable().describe('The language of its words; null where nothing was said'),
      sheets: listOf(sheetOfBlocks(block), LIMITS.sheets, 1),
      pairs: listOf(pairRuleSchema, LIMITS.pairs).describe('Manual values for every such pair'),
    })
    .superRefine((job, context) => {
      const seen = new Set<string>();
      for (const [i, sheet] of job.sheets.entries()) {
        for (const thing of [sheet.id, ...sheet.blocks.map((block) => block.id)]) {
          if (seen.has(thing)) context.addIssue({ code: 'custom', path: ['sheets', i], message: `The identifier “${thing}” is used twice.` });
          seen.add(thing);
        }
      }
    });

const wholeJobSchema = wholeJobOf(blockSchema);

/** More names than any object of a job has: then it isn't looked at any further. */
const MOST_KEYS = 100;

/** The limits of a whole job, counted before anything is looked at more closely. @returns what is too much, in words. */
function tooMuch(job: unknown): string | undefined {
  const property = (value: unknown, name: string): unknown =>
    typeof value === 'object' && value !== null ? (value as Readonly<Record<string, unknown>>)[name] : undefined;
  const items = (value: unknown): readonly unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);
  const crowded = (value: unknown): boolean => typeof value === 'object' && value !== null && Object.keys(value).length > MOST_KEYS;
  const sheets = items(property(job, 'sheets'));
  if (crowded(job) || sheets.length > LIMITS.sheets) return crowded(job) ? 'It has properties that no job has.' : undefined;
  let blocks = 0;
  let letters = 0;
  for (const sheet of sheets) {
    const own = items(property(sheet, 'blocks'));
    blocks += own.length;
    if (blocks > LIMITS.allBlocks) return `It has more than ${LIMITS.allBlocks} blocks.`;
    for (const block of own) {
      const words = property(block, 'words');
      if (typeof words === 'string') letters += words.length;
      if (crowded(sheet) || crowded(block)) return 'It has properties that no job has.';
    }
  }
  return letters > LIMITS.letters ? `It has ${letters} letters; a job holds at most ${LIMITS.letters}.` : undefined;
}

const notTooMuch = z.unknown().superRefine((job, context) => {
  const message = tooMuch(job);
  if (message !== undefined) context.addIssue({ code: 'custom', message, continue: false });
});

export const jobSchema = notTooMuch.pipe(wholeJobSchema);
/** Makes the schema of a job whose blocks are not looked into, for who looks into them by other means. */
export const schemaAroundBlocks = () => notTooMuch.pipe(wholeJobOf(z.custom<Block>((block) => typeof block === 'object' && block !== null)));
export type Job = z.infer<typeof jobSchema>;
export type JobKind = Job['kind'];

/** The published JSON Schema (draft 2020-12) of the job file. */
export function jobJsonSchema(): Record<string, unknown> {
  const description = `At most ${LIMITS.letters} letters (UTF-16 code units) and ${LIMITS.allBlocks} blocks altogether.`;
  return { title: 'Jentrix job', description, ...z.toJSONSchema(jobSchema) };
}
