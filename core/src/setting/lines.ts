/** The way of a paragraph from words to lines of spaced letters: itemise, shape, space, break, reorder. */
import type { WordRange } from '../job';
import { trimEnd } from './blank';
import { HAIR, type Measure, breakGreedily } from './break';
import type { LineRange } from './block-setting';
import { cutItems } from './cut';
import type { OpenLine } from './fit';
import type { Surroundings } from './itemise';
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
  const lineOf = (range: WordRange): OpenLine => sliceOf({ surroundings, spaced, hand }, range) ?? spacedRange(surroundings, items, range, hand);
  const visibleEnd = trimEnd(words, start, end);
  // By far the most paragraphs are one line: that is set, and asked whether it fits, before anything is worked out for breaking.
  if (widthOf(spaced) <= measure.first * SURELY_TOO_WIDE) {
    const whole = lineOf({ start, end: visibleEnd });
    if (whole.widthPt <= measure.first + HAIR) return [{ start, end, visibleEnd, runs: whole.runs, widthPt: whole.widthPt }];
  }
  return breakGreedily(words, paragraph, widthsOf(words, paragraph, spaced), measure).map((line) => {
    const { runs, widthPt } = lineOf({ start: line.start, end: line.visibleEnd });
    return { start: line.start, end: line.end, visibleEnd: line.visibleEnd, runs, widthPt };
  });
}

/** A paragraph that is so many times wider than its room, blanks at its end included, is not tried as one line. */
const SURELY_TOO_WIDE = 1.5;

/** Part of a paragraph as one line. */
export function spacedRange(surroundings: Surroundings, items: readonly ShapedItem[], range: WordRange, hand: HandTenths): OpenLine {
  const runs = space(surroundings.block.words, inVisualOrder(runsOf(cutItems(surroundings, items, range))), hand);
  return { runs, widthPt: widthOf(runs) };
}
