/** The properties of a style. To add one, add it here, and to the control that shows it; a new one also raises `JOB_VERSION`. */
import * as z from 'zod';
import { UnitError, parseMilliem, printSigned, printValue, splitQuantity } from '../../units';
import { LIMITS } from '../limits';
import { byTag, colourSchema, finite, idSchema, milliem } from '../values';
import { property } from './style-property';

/** Letter case as a setting: as typed, capitals, a capital at the head of every word, small capitals. */
export const CASES = ['typed', 'capitals', 'title', 'small'] as const;
export type LetterCase = (typeof CASES)[number];

/** Scales of letters over their natural size. */
const SCALE = { least: 0.1, most: 10 };
const scale = finite.min(SCALE.least).max(SCALE.most);

/** @throws UnitError */
function readScale(text: string): number {
  const { value, unit } = splitQuantity(text);
  const share = value / 100;
  if ((unit !== '' && unit !== '%') || !(share >= SCALE.least && share <= SCALE.most)) throw new UnitError('Scale must be between 10 and 1000 %.');
  return share;
}
/** @throws UnitError */
function readTurn(text: string): number {
  const value = Number(text.trim().replace(/°$/, '').replace('−', '-').replace(',', '.'));
  if (text.trim() === '' || !(Math.abs(value) <= 360)) throw new UnitError('Rotation must be between −360° and 360°.');
  return value;
}
const printScale = (share: number): string => `${printValue(share * 100, 4)}%`;
const showScale = (share: number): string => `${printValue(share * 100)} %`;
/** Sources of kerning, as changes tell them. */
const KERNING_NAMES = { font: 'font', weighed: 'weighed', shape: 'by shape', off: 'none' } as const;
/** The origins of vertical scaling, as changes name them. */
const SCALE_ORIGINS = { baseline: 'baseline', 'x-height': 'mid x-height', capitals: 'mid cap height', 'cap line': 'cap line' } as const;

export const STYLE_PROPERTIES = {
  faceId: property({
    schema: idSchema.describe('Identifier of the face, e.g. playfair-display-bold'),
    default: 'source-sans-3-regular',
    since: 1,
    changes: 'glyphs',
    name: 'face',
  }),
  sizePt: property({
    schema: finite.min(1).max(5000).describe('Type size in points'),
    default: 48,
    since: 1,
    changes: 'advances',
    name: 'size',
    show: (value) => `${printValue(value)} pt`,
  }),
  trackingMilliem: property({
    schema: milliem.describe('Added after every letter but the last of a line, in 1/1000 em of its own size'),
    default: 0,
    since: 1,
    changes: 'advances',
    name: 'tracking',
    show: (value) => printSigned(value),
    css: (value) => ['letter-spacing', `${value / 1000}em`],
  }),
  wordSpaceMilliem: property({
    schema: milliem.describe('Added to every word space, in 1/1000 em'),
    default: 0,
    since: 1,
    changes: 'advances',
    name: 'word space',
    spec: { word: 'word', read: parseMilliem, print: (value) => printSigned(value) },
    css: (value) => ['word-spacing', `${value / 1000}em`],
  }),
  kerning: property({
    schema: z
      .enum(['font', 'weighed', 'shape', 'off'])
      .describe('Source of the kerning under manual values: the font, font and shapes weighed, shapes alone, or none'),
    default: 'font',
    since: 1,
    changes: 'advances',
    name: 'kerning',
    show: (value) => KERNING_NAMES[value],
  }),
  kerningStrength: property({
    schema: finite.min(0).max(2).describe('Multiplies kerning by shape'),
    default: 1,
    since: 3,
    changes: 'advances',
    name: 'kerning strength',
  }),
  colour: property({ schema: colourSchema, default: '#1f2528', since: 1, changes: 'paint', name: 'colour', css: (value) => ['color', value] }),
  scaleX: property({
    schema: scale.describe('Width of letters over their natural width'),
    default: 1,
    since: 3,
    changes: 'advances',
    name: 'horizontal scale',
    spec: { word: 'wide', read: readScale, print: printScale },
    show: showScale,
  }),
  scaleY: property({
    schema: scale.describe('Height of letters over their natural height'),
    default: 1,
    since: 3,
    changes: 'shift',
    name: 'vertical scale',
    spec: { word: 'tall', read: readScale, print: printScale },
    show: showScale,
  }),
  baselineShiftMilliem: property({
    schema: finite.min(-5000).max(5000).describe('How far letters are raised above the baseline, in 1/1000 em of their own size; negative lowers them'),
    default: 0,
    since: 4,
    changes: 'shift',
    name: 'baseline shift',
    spec: { word: 'up', read: parseMilliem, print: (value) => printSigned(value) },
    css: (value) => ['baseline-shift', `${value / 1000}em`],
  }),
  scaleFrom: property({
    schema: z
      .enum(['baseline', 'x-height', 'capitals', 'cap line'])
      .describe('The origin of vertical scaling: baseline, mid x-height, mid cap height or cap line'),
    default: 'baseline',
    since: 6,
    changes: 'shift',
    name: 'scale from',
    show: (value) => SCALE_ORIGINS[value],
  }),
  moveMilliem: property({
    schema: finite.min(-5000).max(5000).describe('How far letters are moved right along the line, in 1/1000 em of their own size; other letters stay'),
    default: 0,
    since: 6,
    changes: 'shift',
    name: 'move',
    spec: { word: 'across', read: parseMilliem, print: (value) => printSigned(value) },
    show: (value) => printSigned(value),
  }),
  turnDeg: property({
    schema: finite.min(-360).max(360).describe('Rotation of every letter, clockwise, around the middle of its advance and of the x-height'),
    default: 0,
    since: 6,
    changes: 'shift',
    name: 'letter rotation',
    spec: { word: 'turn', read: readTurn, print: (value) => `${printValue(value, 2)}°` },
    show: (value) => `${printValue(value, 2)}°`,
  }),
  opacity: property({ schema: finite.min(0).max(1), default: 1, since: 3, changes: 'paint', name: 'opacity' }),
  gradient: property({
    schema: z
      .strictObject({ to: colourSchema, angleDeg: finite.min(0).max(360) })
      .nullable()
      .describe('A second colour; the fill runs from the colour to it across the block'),
    default: null,
    since: 3,
    changes: 'paint',
    name: 'gradient',
  }),
  outline: property({
    schema: z
      .strictObject({
        milliem: finite.min(0).max(1000).describe('Width in 1/1000 em, centred on the edge'),
        colour: colourSchema,
        join: z.enum(['miter', 'round', 'bevel']),
      })
      .nullable(),
    default: null,
    since: 3,
    changes: 'paint',
    name: 'outline',
  }),
  underline: property({ schema: z.boolean(), default: false, since: 3, changes: 'paint', name: 'underline' }),
  strike: property({ schema: z.boolean(), default: false, since: 3, changes: 'paint', name: 'strike-through' }),
  shadow: property({
    schema: z
      .strictObject({
        xMilliem: finite.min(-5000).max(5000),
        yMilliem: finite.min(-5000).max(5000),
        blurMilliem: finite.min(0).max(5000),
        colour: colourSchema,
      })
      .nullable(),
    default: null,
    since: 3,
    changes: 'paint',
    name: 'shadow',
  }),
  case: property({
    schema: z.enum(CASES).describe('How letters are shown; the words stay as typed'),
    default: 'typed',
    since: 3,
    changes: 'glyphs',
    name: 'case',
    spec: { words: { caps: 'capitals', smallcaps: 'small', titlecase: 'title', typed: 'typed' } },
    show: (value) => value,
  }),
  axes: property({
    schema: byTag(finite, LIMITS.axes).describe('Position in a variable face, axis tag to value'),
    default: {},
    since: 2,
    changes: 'glyphs',
    name: 'axes',
  }),
  features: property({
    schema: byTag(z.int().min(0).max(255), LIMITS.features).describe('OpenType features, tag to value'),
    default: {},
    since: 2,
    changes: 'glyphs',
    name: 'features',
  }),
};
