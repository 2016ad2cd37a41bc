/** The options that commands share: apart from all that commands do, so that they are read at once. */
import type { ParseArgsConfig } from 'node:util';
import { SHIPPED_FACES } from './shipped-faces';

/** An option as `parseArgs` of Node takes it, and as help tells of it. */
interface Option {
  type: 'string' | 'boolean';
  default?: string | boolean;
  short?: string;
  /** The name of its value; absent for a switch. */
  value?: string;
  says: string;
}

/** All options, each once: commands name those they take. */
export const OPTIONS = {
  font: { type: 'string', value: 'FILE', says: 'TTF, OTF, WOFF or WOFF2; one font of a TTC as FILE#STYLE or FILE#NUMBER' },
  text: { type: 'string', value: 'TEXT', says: 'the words' },
  pairs: { type: 'string', value: 'FILE', says: 'pairs of letters, one a line' },
  axes: { type: 'string', value: 'LIST', says: 'position of a variable font, such as wght=700,wdth=90' },
  size: { type: 'string', default: '72', value: 'PT', says: 'type size in points' },
  tracking: { type: 'string', default: '0', value: 'N', says: 'in 1/1000 em' },
  dark: { type: 'boolean', default: false, says: 'the letters are lighter than the background' },
  language: { type: 'string', value: 'TAG', says: 'the language of the words (BCP 47), such as tr' },
  kerning: { type: 'string', default: 'weighed', value: 'SOURCE', says: 'weighed (font and shapes, each as far as it can be trusted), shape or font' },
  strength: { type: 'string', default: '1', value: 'S', says: 'multiplies proposals, 0 to 2' },
  'no-font-kerning': { type: 'boolean', default: false, says: 'ignores the font’s GPOS and kern tables; proposals stay the same' },
  faces: { type: 'string', default: SHIPPED_FACES, value: 'DIR', says: 'the folder with the job’s faces' },
  sheet: { type: 'string', default: '1', value: 'N', says: 'which sheet, counted from 1; for export also all' },
  scale: { type: 'string', default: '1', value: 'S', says: 'pixels of PNG per 1/96 inch: 1, 2 or 3' },
  pictures: { type: 'string', value: 'DIR', says: 'the folder with the job’s pictures' },
  format: { type: 'string', default: 'svg', value: 'NAME', says: 'the format of the file' },
  letters: { type: 'string', default: 'outlines', value: 'KIND', says: 'outlines or text' },
  block: { type: 'string', value: 'ID', says: 'the block; the first by default' },
  range: { type: 'string', value: 'LIST', says: 'places in the words, counted from 0: 0-3,7' },
  at: { type: 'string', value: 'N', says: 'the gap before this place in the words, counted from 0' },
  white: { type: 'string', value: 'N', says: 'a white in 1/1000 em, as gaps counts it' },
  alike: { type: 'boolean', default: false, says: 'all gaps of its kind in its line' },
  everywhere: { type: 'string', value: 'SCOPE', says: 'the same two letters in its block, its sheet or the job' },
  path: { type: 'string', value: 'KIND', says: 'a kind of path, path data, an SVG file, or JSON' },
  rise: { type: 'string', value: 'PT', says: 'of an arc over the line between its ends; negative hangs down' },
  radius: { type: 'string', value: 'PT', says: 'of an arc or a circle' },
  along: { type: 'string', value: 'X,Y,X,Y', says: 'two places of a line on the sheet, in points' },
  and: { type: 'string', value: 'X,Y,X,Y', says: 'a second line' },
  ratio: { type: 'string', default: '1.25', value: 'R', says: 'size of end letters over the others, 0.2 to 5' },
  of: { type: 'string', default: 'words', value: 'WHAT', says: 'ends of words or lines' },
  which: { type: 'string', default: 'both', value: 'ENDS', says: 'first, last or both' },
  level: { type: 'string', default: 'foot', value: 'WHERE', says: 'align capitals by foot (baseline), middle or top' },
  steps: { type: 'string', default: 'kerning', value: 'LIST', says: 'of words,tracking,leading,kerning,breaks,edges' },
  lines: { type: 'string', default: 'all', value: 'LIST', says: 'all, or lines counted from 1: 1,3' },
  to: {
    type: 'string',
    default: 'frame',
    value: 'MEASURE',
    says: 'frame, margins, a length such as 320mm, two places as 20mm..180mm, or another block as ID or ID:LINE',
  },
  by: { type: 'string', default: 'size', value: 'LEVERS', says: 'size, letters, words, width, or several with weights: size:2,letters:1' },
  limits: { type: 'string', value: 'LIST', says: 'limits of levers, such as size=0.8..1.5,letters=-20..40: factors, or 1/1000 em' },
  ink: { type: 'boolean', default: false, says: 'measure from ink to ink; the default from 24 pt' },
  advance: { type: 'boolean', default: false, says: 'measure between side bearings' },
  overshoot: { type: 'string', default: '0', value: 'SHARE', says: 'optical overshoot of round and pointed ends, 0 to 1' },
  tenths: { type: 'boolean', default: false, says: 'sizes in tenths of a point; tracking takes the rest' },
  even: { type: 'boolean', default: false, says: 'even spacing between lines: by flat edges for capitals and figures, otherwise by ink' },
  'even-by': { type: 'string', value: 'EDGES', says: 'even spacing by flat (cap line to baseline) or ink' },
  height: { type: 'string', value: 'MEASURE', says: 'frame or a length: the height of all lines together, by leading' },
  leading: { type: 'string', default: 'clear', value: 'WAY', says: 'clear: adds leading where lines would touch; keep: leading stays' },
  way: { type: 'string', value: 'WAY', says: 'greedy, even or total' },
  shape: { type: 'string', value: 'SHAPE', says: 'shape of balanced lines: even, widening or narrowing' },
  align: { type: 'string', value: 'ALIGN', says: 'left, centre, right or justified' },
  give: { type: 'string', value: 'N', says: 'range of letter space in justified lines, in 1/1000 em' },
  widen: { type: 'string', value: 'PERCENT', says: 'range of letter width in justified lines, 0 to 2 %' },
  last: { type: 'string', value: 'HOW', says: 'natural or full: the last line of a justified paragraph' },
  hyphenate: { type: 'string', value: 'on|off', says: 'hyphenates by the patterns of the language, or removes hyphenation' },
  fix: { type: 'string', value: 'KIND', says: 'tighten, tie, even, smaller, wider, best or back' },
  optical: { type: 'string', value: 'SHARE', says: 'from metric, 0, to optical, 1' },
  hang: { type: 'string', value: 'LIST', says: 'hanging punctuation by kind: quotes=1,points=1,dashes=0.6,bullets=1,numbers=1' },
  off: { type: 'boolean', default: false, says: 'metric edges' },
  indent: { type: 'string', value: 'LIST', says: 'manual offsets by line, counted from 1: 2=4pt,3=-1mm' },
  centre: { type: 'string', value: 'AREA', says: 'centres the ink on sheet, margins, safe, guides, or a box X,Y,WIDTH,HEIGHT' },
  axis: { type: 'string', default: 'both', value: 'AXIS', says: 'x, y or both' },
  ppi: { type: 'string', value: 'N', says: 'resolution of the picture, in ppi' },
  width: { type: 'string', value: 'PX', says: 'width of the picture in pixels' },
  transparent: { type: 'boolean', default: false, says: 'leaves out the background of the sheet' },
  embed: { type: 'boolean', default: false, says: 'embeds the faces in an SVG with live text, where the licence allows' },
  fluid: { type: 'boolean', default: false, says: 'a web page as wide as its container' },
  bleed: { type: 'string', default: '0', value: 'MM', says: 'bleed of a PDF, in millimetres' },
  marks: { type: 'boolean', default: false, says: 'crop marks in a PDF' },
  quality: { type: 'string', value: 'Q', says: 'quality of JPEG and WebP, 1 to 100; 85 by default' },
  apply: { type: 'string', value: 'LIST', says: 'parts of a reading to apply: size,tracking,leading,angle,lines' },
  release: { type: 'boolean', default: false, says: 'keeps the fitted values and stops fitting' },
  revert: { type: 'string', value: 'LIST', says: 'changes to revert: all, or their numbers: 1,4' },
  before: { type: 'string', value: 'FILE', says: 'the earlier state of the job' },
  report: { type: 'string', value: 'FILE', says: 'where to write a report of the changes, as JSON' },
  taste: { type: 'string', value: 'FILE', says: 'a designer’s taste, as the command taste writes it, or exported preferences' },
  json: { type: 'boolean', default: false, says: 'JSON instead of a table' },
  out: { type: 'string', value: 'DIR', says: 'a folder for what is made of several files' },
  jobs: { type: 'string', default: '1', value: 'N', says: 'how many files to process at a time' },
  name: { type: 'string', value: 'NAME', says: 'the family name of the fonts to write with these pairs' },
  title: { type: 'string', value: 'TEXT', says: 'title of the job' },
  in: { type: 'string', value: 'LIST', says: 'sizes of sheets by name: Square 1:1,Tall 9:16' },
  kind: { type: 'string', default: 'place', value: 'NAME', says: 'of an exercise: place, even, wrong, leading or touch' },
  practise: {
    type: 'string',
    default: 'straight',
    value: 'LEVEL',
    says: 'which words: straight, round, diagonal, capitals, lower, italic, figures, words or lines',
  },
  pair: { type: 'string', value: 'KIND', says: 'of pair, by the sides that face each other, such as “round to straight”' },
  hardness: { type: 'string', default: '0', value: 'H', says: 'how small the fault is, 0 to 1' },
  seed: { type: 'string', default: '1', value: 'N', says: 'the same seed gives the same exercise' },
  bias: { type: 'string', value: 'LIST', says: 'how much more open gaps look right, by kind of pair, in 1/1000 em: “round to straight=20”' },
  deviation: { type: 'string', default: '0', value: 'N', says: 'how unsteady the hand is, in 1/1000 em' },
  idle: { type: 'boolean', default: false, says: 'leaves the letters as dealt' },
  rounds: { type: 'string', default: '60', value: 'N', says: 'how many words are placed' },
  output: { type: 'string', short: 'o', value: 'FILE', says: 'where to write' },
  help: { type: 'boolean', short: 'h', default: false, says: 'this' },
} as const satisfies Readonly<Record<string, Option>>;
// What Node does not know of an option it ignores.
OPTIONS satisfies ParseArgsConfig['options'];

export type OptionName = keyof typeof OPTIONS;

/** The values of options: those with a default are always there. */
export type Values = {
  readonly [Name in OptionName]: (typeof OPTIONS)[Name] extends { default: unknown }
    ? (typeof OPTIONS)[Name]['type'] extends 'boolean'
      ? boolean
      : string
    : string | undefined;
};
