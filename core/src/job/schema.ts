/** The document. Every value from outside (file, HTTP body, storage, worker) passes through these schemas. */
import { z } from 'zod';
import { ALIGNMENTS, LENGTH_UNITS } from '../units';

/** Version of the job file format that this code writes. */
export const JOB_VERSION = 3;

/**
 * Limits that keep a hostile job from costing more than a large real one. `letters` and `allBlocks` hold for all sheets together
 * (letters in UTF-16 code units), `features` and `axes` for one style: the shaper takes some thousand features a call at most.
 */
export const LIMITS = {
  sheets: 200,
  blocks: 400,
  allBlocks: 4_000,
  words: 20_000,
  letters: 100_000,
  runs: 2_000,
  hand: 20_000,
  pairs: 2_000,
  features: 200,
  axes: 64,
} as const;

/** A list that is counted before any of its items is looked at, so that one far too long costs nothing. */
const list = <T extends z.ZodType>(item: T, most: number, least = 0) =>
  z
    .unknown()
    .refine((value) => !Array.isArray(value) || value.length <= most, { error: `There are more than ${most}.`, abort: true })
    .pipe(z.array(item).min(least).max(most));

/** An OpenType tag: four printable characters (OpenType 1.9.1, data types). */
const tag = z.string().regex(/^[ -~]{4}$/, 'A tag has four printable characters.');

/** Values by tag; counted before any of them is looked at. */
const byTag = <T extends z.ZodType>(value: T, most: number) =>
  z
    .record(z.string(), z.unknown())
    .refine((values) => Object.keys(values).length <= most, { error: `There are more than ${most} tags.`, abort: true })
    .pipe(z.record(tag, value));

const finite = z.number();
const id = z.string().min(1).max(80);
const milliem = finite.min(-1000).max(5000);

/** `#rrggbb` */
export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is written #rrggbb.');

/** Letter case as a setting: as typed, capitals, a capital at the head of every word, small capitals. */
export const CASES = ['typed', 'capitals', 'title', 'small'] as const;
export type LetterCase = (typeof CASES)[number];

/** How letters look and are spaced. */
export const styleSchema = z.strictObject({
  faceId: id.describe('Identifier of the face, e.g. playfair-display-bold'),
  sizePt: finite.min(1).max(5000).describe('Type size in points'),
  trackingMilliem: milliem.describe('Added after every letter but the last of a line, in 1/1000 em of its own size'),
  wordSpaceMilliem: milliem.describe('Added to every word space, in 1/1000 em'),
  kerning: z.enum(['font', 'shape', 'off']).describe('Where the kerning under the hand values comes from: the font, the measured shapes, or nowhere'),
  kerningStrength: finite.min(0).max(2).describe('Multiplies kerning by shape: houses differ in how much they kern'),
  colour: colourSchema,
  scaleX: finite.min(0.1).max(10).describe('Width of letters over their natural width'),
  scaleY: finite.min(0.1).max(10).describe('Height of letters over their natural height'),
  opacity: finite.min(0).max(1),
  gradient: z
    .strictObject({ to: colourSchema, angleDeg: finite.min(0).max(360) })
    .nullable()
    .describe('From the colour to another over the whole block'),
  outline: z
    .strictObject({
      milliem: finite.min(0).max(1000).describe('Width in 1/1000 em, centred on the edge'),
      colour: colourSchema,
      join: z.enum(['miter', 'round', 'bevel']),
    })
    .nullable(),
  underline: z.boolean(),
  strike: z.boolean(),
  shadow: z
    .strictObject({ xMilliem: finite.min(-5000).max(5000), yMilliem: finite.min(-5000).max(5000), blurMilliem: finite.min(0).max(5000), colour: colourSchema })
    .nullable(),
  case: z.enum(CASES).describe('How letters are shown; the words stay as typed'),
  axes: byTag(finite, LIMITS.axes).describe('Position in a variable face, axis tag to value'),
  features: byTag(z.int().min(0).max(255), LIMITS.features).describe('OpenType features, tag to value'),
});
export type Style = z.infer<typeof styleSchema>;

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
  rule: id.describe('Identifier of the finding rule'),
  at: z.int().min(0).describe('UTF-16 offset of the place, 0 for the whole block'),
});

export const leadingSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('pt'), pt: finite.min(0).max(10_000) }),
  z.strictObject({ kind: z.literal('multiple'), factor: finite.min(0).max(20) }),
  z.strictObject({ kind: z.literal('auto'), factor: finite.min(0.5).max(3).optional().describe('What the size is multiplied by; 1.2 where it is absent') }),
]);

export type Leading = z.infer<typeof leadingSchema>;

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
export const parkedSchema = z.strictObject({ faceId: id, hand: list(handKernSchema, LIMITS.hand) });

export const blockSchema = z
  .strictObject({
    id,
    frame: frameSchema,
    words: z.string().max(LIMITS.words),
    style: styleSchema,
    runs: list(runSchema, LIMITS.runs).describe('Sorted, not overlapping'),
    align: z.enum(ALIGNMENTS),
    leading: leadingSchema,
    hand: list(handKernSchema, LIMITS.hand).describe('Sorted by place, one value a place'),
    intended: list(intendedSchema, LIMITS.hand).describe('Findings silenced as intended'),
    grow: z.enum(GROWTHS),
    vertical: z.enum(VERTICALS),
    trim: z.boolean().describe('The frame ends at cap height and baseline instead of ascender and descender'),
    rotationDeg: finite.min(-360).max(360).describe('Clockwise, around the middle of the frame'),
    locked: z.boolean(),
    paragraph: paragraphSchema,
    parked: list(parkedSchema, 50),
    lineLeading: list(lineLeadingSchema, 2000).describe('Sorted by place, one value a place'),
    recipeId: id.nullable().describe('The recipe the block follows; settings that differ are its overrides'),
  })
  .superRefine((block, context) => {
    let previous = 0;
    for (const [i, run] of block.runs.entries()) {
      if (run.start < previous || run.end <= run.start || run.end > block.words.length) {
        context.addIssue({ code: 'custom', path: ['runs', i], message: 'Runs must be sorted, apart and inside the words.' });
      }
      previous = run.end;
    }
    previous = 0;
    for (const [i, kern] of block.hand.entries()) {
      if (kern.at <= previous || kern.at >= block.words.length) {
        context.addIssue({ code: 'custom', path: ['hand', i], message: 'Hand kerning must be sorted and stand between two letters.' });
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
    pictureId: id,
    fit: z.enum(['cover', 'contain']),
    colour: colourSchema.describe('What shows where the picture does not reach'),
  }),
]);
export type Background = z.infer<typeof backgroundSchema>;

export const sheetSchema = z.strictObject({
  id,
  name: z.string().max(200),
  widthPt: finite.min(1).max(20_000),
  heightPt: finite.min(1).max(20_000),
  unit: z.enum(LENGTH_UNITS).describe('The unit people see this sheet in'),
  margins: marginsSchema,
  background: backgroundSchema,
  guides: list(guideSchema, 200),
  safeShare: finite.min(0).max(0.4).describe('Title-safe area: the share of width and height kept free on every side; 0 shows none'),
  centreLines: z.boolean(),
  blocks: list(blockSchema, LIMITS.blocks).describe('Painted in this order'),
});
export type Sheet = z.infer<typeof sheetSchema>;

/** Where a pair rule holds. */
export const pairScopeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('block'), id }),
  z.strictObject({ kind: z.literal('sheet'), id }),
  z.strictObject({ kind: z.literal('job') }),
]);
export type PairScope = z.infer<typeof pairScopeSchema>;

/** One hand value for every occurrence of a pair. */
export const pairRuleSchema = z.strictObject({
  left: z.string().min(1).max(32).describe('The left letter, one grapheme'),
  right: z.string().min(1).max(32).describe('The right letter, one grapheme'),
  faceId: id.describe('The face the value was made for'),
  milliem: milliem.describe('1/1000 em of the left letter; positive opens'),
  scope: pairScopeSchema,
});
export type PairRule = z.infer<typeof pairRuleSchema>;

/** Kinds of work, for the shelf. */
export const JOB_KINDS = ['poster', 'slides', 'social', 'flyer', 'other'] as const;

const wholeJobSchema = z
  .strictObject({
    format: z.literal('jentrix.job'),
    version: z.literal(JOB_VERSION),
    title: z.string().trim().min(1).max(200),
    kind: z.enum(JOB_KINDS),
    sheets: list(sheetSchema, LIMITS.sheets, 1),
    pairs: list(pairRuleSchema, LIMITS.pairs).describe('Hand values for every such pair'),
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

/** More names than any object of a job has: then it isn't looked at any further. */
const MOST_KEYS = 100;

/** What of a job costs together, counted before anything is looked at more closely. @returns what is too much, in words. */
function tooMuch(job: unknown): string | undefined {
  const property = (value: unknown, name: string): unknown =>
    typeof value === 'object' && value !== null ? (value as Readonly<Record<string, unknown>>)[name] : undefined;
  const items = (value: unknown): readonly unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);
  const crowded = (value: unknown): boolean => typeof value === 'object' && value !== null && Object.keys(value).length > MOST_KEYS;
  const sheets = items(property(job, 'sheets'));
  if (crowded(job) || sheets.length > LIMITS.sheets) return crowded(job) ? 'It has names that no job has.' : undefined;
  let blocks = 0;
  let letters = 0;
  for (const sheet of sheets) {
    const own = items(property(sheet, 'blocks'));
    blocks += own.length;
    if (blocks > LIMITS.allBlocks) return `It has more than ${LIMITS.allBlocks} blocks.`;
    for (const block of own) {
      const words = property(block, 'words');
      if (typeof words === 'string') letters += words.length;
      if (crowded(sheet) || crowded(block)) return 'It has names that no job has.';
    }
  }
  return letters > LIMITS.letters ? `It has ${letters} letters; a job holds at most ${LIMITS.letters}.` : undefined;
}

export const jobSchema = z
  .unknown()
  .superRefine((job, context) => {
    const message = tooMuch(job);
    if (message !== undefined) context.addIssue({ code: 'custom', message, continue: false });
  })
  .pipe(wholeJobSchema);
export type Job = z.infer<typeof jobSchema>;
export type JobKind = Job['kind'];

/** The published JSON Schema (draft 2020-12) of the job file. */
export function jobJsonSchema(): Record<string, unknown> {
  const description = `At most ${LIMITS.letters} letters (UTF-16 code units) and ${LIMITS.allBlocks} blocks altogether.`;
  return { title: 'Jentrix job', description, ...z.toJSONSchema(jobSchema) };
}
