/** The properties of a style. To add one, add it here, and to the control that shows it; a new one also raises `JOB_VERSION`. */
import * as z from 'zod';
import { UnitError, parseMilliem, printSigned, printValue, splitQuantity } from '../../units';
import { LIMITS } from '../limits';
import { byTag, colourSchema, finite, id, milliem } from '../values';
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
  if ((unit !== '' && unit !== '%') || !(share >= SCALE.least && share <= SCALE.most)) throw new UnitError('Scale is a percentage between 10 and 1000.');
  return share;
}
/** @throws UnitError */
function readTurn(text: string): number {
  const value = Number(text.trim().replace(/°$/, '').replace('−', '-').replace(',', '.'));
  if (text.trim() === '' || !(Math.abs(value) <= 360)) throw new UnitError('A turn is between −360° and 360°.');
  return value;
}
const printScale = (share: number): string => `${printValue(share * 100, 4)}%`;
const showScale = (share: number): string => `${printValue(share * 100)} %`;

export const STYLE_PROPERTIES = {
  faceId: property({
    schema: id.describe('Identifier of the face, e.g. playfair-display-bold'),
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
      .describe('Where the kerning under the hand values comes from: the font, font and measured shapes weighed, the shapes alone, or nowhere'),
    default: 'font',
    since: 1,
    changes: 'advances',
    name: 'kerning',
  }),
  kerningStrength: property({
    schema: finite.min(0).max(2).describe('Multiplies kerning by shape: houses differ in how much they kern'),
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
    name: 'width',
    spec: { word: 'wide', read: readScale, print: printScale },
    show: showScale,
  }),
  scaleY: property({
    schema: scale.describe('Height of letters over their natural height'),
    default: 1,
    since: 3,
    changes: 'shift',
    name: 'height',
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
      .describe(
        'What of letters stays where it was when their height is scaled: the baseline, the middle of the x-height or of the capitals, or the line that capitals reach',
      ),
    default: 'baseline',
    since: 6,
    changes: 'shift',
    name: 'scaled from',
    show: (value) => (value === 'baseline' || value === 'cap line' ? `the ${value}` : `the middle of the ${value}`),
  }),
  moveMilliem: property({
    schema: finite.min(-5000).max(5000).describe('How far letters are moved along the line, to the right, in 1/1000 em of their own size; the others stay'),
    default: 0,
    since: 6,
    changes: 'shift',
    name: 'moved',
    spec: { word: 'across', read: parseMilliem, print: (value) => printSigned(value) },
    show: (value) => printSigned(value),
  }),
  turnDeg: property({
    schema: finite.min(-360).max(360).describe('How far every letter is turned, clockwise, around the middle of its room and of the x-height'),
    default: 0,
    since: 6,
    changes: 'shift',
    name: 'turned',
    spec: { word: 'turn', read: readTurn, print: (value) => `${printValue(value, 2)}°` },
    show: (value) => `${printValue(value, 2)}°`,
  }),
  opacity: property({ schema: finite.min(0).max(1), default: 1, since: 3, changes: 'paint', name: 'opacity' }),
  gradient: property({
    schema: z
      .strictObject({ to: colourSchema, angleDeg: finite.min(0).max(360) })
      .nullable()
      .describe('From the colour to another over the whole block'),
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
