/** The way of a paragraph from words to lines of spaced letters: itemise, shape, space, break, reorder. */
import { type WordRange, styleAt } from '../job';
import { SOFT_HYPHEN, trimEnd } from './blank';
import { HAIR, type Measure, breakGreedily } from './break';
import type { LineRange } from './block-setting';
import { cutItems } from './cut';
import type { OpenLine } from './fit';
import type { Surroundings } from './itemise';
import { paragraphAt } from './paragraphs';
import { inVisualOrder } from './reorder';
import { type ShapedItem, shapeItems } from './shape';
import { sliceOf } from './slice';
import { type HandTenths, space, widthOf } from './space';
import { runsOf } from './spans';
import { widthsOf } from './widths';

/** A line shaped and spaced, in the order its letters stand in; not placed yet. */
export interface SpacedLine extends LineRange, OpenLine {}

/** The lines of one paragraph. */
export function linesOf(surroundings: Surroundings, hand: HandTenths, measure: Measure): SpacedLine[] {
  const { block, paragraph } = surroundings;
  const { words } = block;
  const { start, end } = paragraph;
  const items = shapeItems(surroundings, paragraph);
  const read = runsOf(items);
  const spaced = space(words, read, hand);
  const lineOf = (range: WordRange): OpenLine => {
    if (endsInHyphen(words, range.end)) return hyphenated(surroundings, range, hand);
    return sliceOf({ surroundings, spaced, hand }, range) ?? spacedRange(surroundings, items, range, hand);
  };
  const visibleEnd = trimEnd(words, start, end);
  // By far the most paragraphs are one line: that is set, and asked whether it fits, before anything is worked out for breaking.
  if (widthOf(spaced) <= measure.first * SURELY_TOO_WIDE) {
    const whole = lineOf({ start, end: visibleEnd });
    if (whole.widthPt <= measure.first + HAIR) return [{ start, end, visibleEnd, runs: whole.runs, widthPt: whole.widthPt }];
  }
  // Lines that were set to see whether they fit; the next line of the same beginning is asked for by its end.
  const known = new Map<number, OpenLine>();
  const setLine = (from: number, to: number): OpenLine => {
    const key = from * (words.length + 1) + to;
    let line = known.get(key);
    if (!line) known.set(key, (line = lineOf({ start: from, end: to })));
    return line;
  };
  const slackPt = (paragraph.levels ? SLACK_JOINED : SLACK) * Math.max(...read.map(({ style }) => style.sizePt * style.scaleX));
  const { between: about, isSafe } = widthsOf(words, paragraph, spaced);
  const exactly = (from: number, to: number): number => setLine(from, to).widthPt;
  return breakGreedily(words, paragraph, { about, isSafe, slackPt, exactly }, measure).map(({ start: from, end: to, visibleEnd: seen }) => {
    // Written out: spreading took longer than setting a line.
    const { runs, widthPt } = setLine(from, seen);
    return { start: from, end: to, visibleEnd: seen, runs, widthPt };
  });
}

/** Letters beside an end of a line may stand otherwise than in their paragraph: by less than this, in em; more where strokes join them. */
const SLACK = 0.15;
const SLACK_JOINED = 0.7;

/** True where a line that ends before an offset shows a hyphen: it divides a word at a soft one. */
export const endsInHyphen = (words: string, end: number): boolean =>
  words.charAt(end - 1) === SOFT_HYPHEN && end < words.length && paragraphAt(words, end).start < end && paragraphAt(words, end).end > end;

/** A line that ends in a soft hyphen shows a hyphen in its place. */
function hyphenated(surroundings: Surroundings, range: WordRange, hand: HandTenths): OpenLine {
  const { block, faces } = surroundings;
  const at = range.end - 1;
  const instance = faces.instance(styleAt(block, at));
  const hyphen = instance.nominalGlyph(HYPHEN.codePointAt(0) ?? 0) === undefined ? '-' : HYPHEN;
  const shown = { ...surroundings, block: { ...block, words: block.words.slice(0, at) + hyphen + block.words.slice(range.end) } };
  return spacedRange(shown, shapeItems(shown, range), range, hand);
}

/** U+2010, for which a face without it shows its hyphen-minus. */
const HYPHEN = '\u2010';

/** A paragraph that is so many times wider than its room, blanks at its end included, is not tried as one line. */
const SURELY_TOO_WIDE = 1.5;

/** Part of a paragraph as one line. */
export function spacedRange(surroundings: Surroundings, items: readonly ShapedItem[], range: WordRange, hand: HandTenths): OpenLine {
  const runs = space(surroundings.block.words, inVisualOrder(runsOf(cutItems(surroundings, items, range))), hand);
  return { runs, widthPt: widthOf(runs) };
}
