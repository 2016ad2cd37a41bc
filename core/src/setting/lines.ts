/** The way of a paragraph from words to lines of spaced letters: itemise, shape, space, break, reorder. */
import type { WordRange } from '../job';
import { trimEnd } from './blank';
import { type Measure, breakGreedily } from './break';
import type { LineRange } from './block-setting';
import { cutItems } from './cut';
import type { OpenLine } from './fit';
import type { Surroundings } from './itemise';
import { inVisualOrder } from './reorder';
import { type ShapedItem, shapeItems } from './shape';
import { type HandTenths, type SpacedRun, space, widthOf } from './space';
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
  const stands = inVisualOrder(read);
  let whole: readonly SpacedRun[] | undefined;
  if (trimEnd(words, start, end) === end) {
    whole = space(words, stands, hand);
    const widthPt = widthOf(whole);
    if (widthPt <= measure.first) return [{ start, end, visibleEnd: end, runs: whole, widthPt }];
  }
  const widths = widthsOf(words, paragraph, whole && stands === read ? whole : space(words, read, hand));
  return breakGreedily(words, paragraph, widths, measure).map((range) => ({
    ...range,
    ...spacedRange(surroundings, items, { start: range.start, end: range.visibleEnd }, hand),
  }));
}

/** Part of a paragraph as one line. */
export function spacedRange(surroundings: Surroundings, items: readonly ShapedItem[], range: WordRange, hand: HandTenths): OpenLine {
  const runs = space(surroundings.block.words, inVisualOrder(runsOf(cutItems(surroundings, items, range))), hand);
  return { runs, widthPt: widthOf(runs) };
}
