/** The aspects of a block and a sheet that people notice when they change: one definition an aspect, from which changes are said, listed and reverted. */
import { type LengthUnit, fromPoints, printLeading, printLeadings, printSigned, printValue } from '../units';
import {
  REVERTED_PREFIX,
  type Background,
  type Block,
  type Breaking,
  type FitTarget,
  type Sheet,
  type StyleKey,
  type StyleProperty,
  STYLE_PROPERTIES,
  sayPath,
} from '../job';

/** Some of the settings of a thing, as people compare them. */
export interface Aspect<T> {
  id: string;
  /** In lower case. */
  name: string;
  /** The keys of the thing that make up the aspect: it has changed where one of these has, and these are what is reverted. */
  keys: readonly (keyof T)[];
  /** The value in a few words. @param unit the one people see the sheet in. */
  show(thing: T, unit: LengthUnit): string;
  /** The values before and after, where both are shown in one unit. */
  both?(before: T, after: T): readonly [string, string];
  /** A phrase for the new state, where name and value would not say it; without a capital. */
  become?(before: T, after: T): string;
}

/** Ways to find the ends of lines, as people read them. */
const BREAKING_NAMES: Readonly<Record<Breaking['way'], string>> = { greedy: 'fill', even: 'balanced', total: 'even spaces' };

const length = (pt: number, unit: LengthUnit): string => `${printValue(fromPoints(pt, unit), 1)} ${unit}`;
const percent = (share: number): string => `${printValue(share * 100)} %`;
const count = (n: number, one: string, more = `${one}s`): string => (n === 0 ? 'none' : `${n} ${n === 1 ? one : more}`);
const onOff = (on: boolean): string => (on ? 'on' : 'off');

function target(to: FitTarget | null, unit: LengthUnit): string {
  switch (to?.kind) {
    case undefined:
      return 'by height only';
    case 'pt':
      return `to ${length(to.pt, unit)}`;
    case 'between':
      return `from ${length(to.leftPt, unit)} to ${length(to.rightPt, unit)}`;
    case 'block':
      return to.line === null ? 'to another block' : `to line ${to.line + 1} of another block`;
    default:
      return `to the ${to?.kind ?? ''}`;
  }
}

/** Everything of a block but its words, its styles and its hand kerning, which are told letter by letter. Adding one is a line here. */
export const BLOCK_ASPECTS: readonly Aspect<Block>[] = [
  {
    id: 'leading',
    name: 'leading',
    keys: ['leading'],
    show: ({ leading }) => printLeading(leading),
    both: (before, after) => printLeadings(before.leading, after.leading, [before.style.sizePt, after.style.sizePt]),
  },
  { id: 'line-leading', name: 'leading of single lines', keys: ['lineLeading'], show: ({ lineLeading }) => count(lineLeading.length, 'line') },
  { id: 'language', name: 'language', keys: ['language'], show: ({ language }) => language ?? 'of the job' },
  { id: 'align', name: 'align', keys: ['align'], show: ({ align }) => align },
  { id: 'rotation', name: 'rotation', keys: ['rotationDeg'], show: ({ rotationDeg }) => `${printValue(rotationDeg, 1)}°` },
  { id: 'path', name: 'path', keys: ['path'], show: ({ path }) => sayPath(path) },
  {
    id: 'ends',
    name: 'end letters',
    keys: ['ends'],
    show: ({ ends }) => (ends ? `${ends.which === 'both' ? 'first and last' : ends.which} of ${ends.of} ${percent(ends.ratio)}` : 'none'),
  },
  { id: 'fit', name: 'fit', keys: ['fit'], show: ({ fit }, unit) => (fit ? target(fit.to, unit) : 'not fitted') },
  {
    id: 'breaking',
    name: 'line breaks',
    keys: ['breaking'],
    show: ({ breaking: { way, shape } }) => BREAKING_NAMES[way] + (way === 'even' && shape !== 'even' ? `, ${shape}` : ''),
  },
  {
    id: 'justify',
    name: 'justification',
    keys: ['justify'],
    show: ({ justify: { lettersMilliem, width, last } }) =>
      `letter space ±${printValue(lettersMilliem)}/1000 em, letter width ±${percent(width)}, last line ${last}`,
  },
  { id: 'edges', name: 'edges', keys: ['edges'], show: ({ edges }) => (edges ? `optical, ${percent(edges.optical)}` : 'metric') },
  {
    id: 'line-indents',
    name: 'manual line offsets',
    keys: ['lineIndents'],
    show: ({ lineIndents }, unit) => lineIndents.map(({ byPt }) => length(byPt, unit)).join(', ') || 'none',
  },
  {
    id: 'tightened',
    name: 'tightened',
    keys: ['tightened'],
    show: ({ tightened }) => tightened.map(({ milliem }) => printSigned(milliem)).join(', ') || 'nowhere',
  },
  { id: 'locked', name: 'lock', keys: ['locked'], show: ({ locked }) => onOff(locked) },
  {
    id: 'frame',
    name: 'frame',
    keys: ['frame'],
    show: ({ frame }, unit) => `${length(frame.widthPt, unit)} wide, at ${length(frame.xPt, unit)}, ${length(frame.yPt, unit)}`,
  },
  { id: 'grow', name: 'frame', keys: ['grow'], show: ({ grow }) => ({ both: 'fits lines', down: 'fits height', fixed: 'fixed size' })[grow] },
  {
    id: 'vertical',
    name: 'vertical align',
    keys: ['vertical'],
    show: ({ vertical }) => vertical,
  },
  { id: 'trim', name: 'trim to cap height', keys: ['trim'], show: ({ trim }) => onOff(trim) },
  {
    id: 'paragraph',
    name: 'paragraphs',
    keys: ['paragraph'],
    show: ({ paragraph: { indentPt, beforePt, afterPt, list } }, unit) =>
      `first-line indent ${length(indentPt, unit)}, space before ${length(beforePt, unit)}, space after ${length(afterPt, unit)}, list ${list}`,
  },
  { id: 'recipe', name: 'recipe', keys: ['recipeId'], show: ({ recipeId }) => (recipeId === null ? 'none' : 'used') },
  { id: 'part', name: 'shared words', keys: ['part'], show: ({ part }) => (part === null ? 'detached' : 'shared with other sheets') },
  {
    id: 'intended',
    name: 'ignored findings',
    keys: ['intended'],
    show: ({ intended }) => count(intended.length, 'place'),
    become: (before, after) => {
      const places = (block: Block): number => block.intended.filter(({ rule }) => !rule.startsWith(REVERTED_PREFIX)).length;
      const back = after.intended.length - places(after) - (before.intended.length - places(before));
      if (back !== 0 && places(after) === places(before)) return back > 0 ? 'reverted change of the first cut' : 'kept change of the first cut';
      return places(after) > places(before) ? 'ignored' : 'shown again';
    },
  },
];

function ground(background: Background): string {
  switch (background.kind) {
    case 'colour':
      return background.colour;
    case 'gradient':
      return `${background.from} to ${background.to}`;
    case 'picture':
      return 'a picture';
  }
}

/** Everything of a sheet but its blocks. */
export const SHEET_ASPECTS: readonly Aspect<Sheet>[] = [
  { id: 'name', name: 'sheet name', keys: ['name'], show: ({ name }) => name },
  {
    id: 'size',
    name: 'sheet size',
    keys: ['widthPt', 'heightPt', 'unit'],
    show: ({ widthPt, heightPt, unit }) => `${length(widthPt, unit)} × ${length(heightPt, unit)}`,
  },
  {
    id: 'margins',
    name: 'margins',
    keys: ['margins'],
    show: ({ margins: { topPt, rightPt, bottomPt, leftPt } }, unit) => [topPt, rightPt, bottomPt, leftPt].map((pt) => length(pt, unit)).join(', '),
  },
  { id: 'background', name: 'background', keys: ['background'], show: ({ background }) => ground(background) },
  { id: 'guides', name: 'guides', keys: ['guides'], show: ({ guides }) => count(guides.length, 'guide') },
  { id: 'safe', name: 'title-safe area', keys: ['safeShare'], show: ({ safeShare }) => (safeShare > 0 ? percent(safeShare) : 'off') },
  { id: 'centre-lines', name: 'centre lines', keys: ['centreLines'], show: ({ centreLines }) => onOff(centreLines) },
];

/** True where two values say something else. */
export const differ = (a: unknown, b: unknown): boolean => a !== b && JSON.stringify(a) !== JSON.stringify(b);

/** The aspects in which two states of a thing differ. */
export const changedAspects = <T>(aspects: readonly Aspect<T>[], before: T, after: T): Aspect<T>[] =>
  aspects.filter(({ keys }) => keys.some((key) => differ(before[key], after[key])));

/** A value of a style as it is told. @param names how a face is called. */
export function printedValue(key: StyleKey, value: unknown, names: (faceId: string) => string): string {
  if (key === 'faceId') return names(String(value));
  const { show } = STYLE_PROPERTIES[key] as StyleProperty;
  if (show) return show(value);
  if (typeof value === 'number') return printValue(value);
  if (typeof value === 'string') return value;
  return value === null || value === false ? 'off' : 'on';
}
