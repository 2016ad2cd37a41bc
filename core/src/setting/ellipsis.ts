/** Stack stage: a line shortened until an ellipsis fits behind it. */
import { graphemeBoundaries, styleAt } from '../job';
import { milliemToPoints } from '../units';
import { SOFT_HYPHEN, isSpace } from './blank';
import type { Surroundings } from './itemise';
import { type SpacedLine, spacedRange } from './lines';
import { type LoneText, shapeLone } from './lone-text';
import { shapeItems } from './shape';
import type { HandTenths } from './space';

/** A line with the ellipsis that follows it, tracked as its letters are. */
export interface EllipsisLine {
  line: SpacedLine;
  ellipsis: LoneText;
  gapPt: number;
}

/** @param widthPt the room for both. No blank stands before the ellipsis. */
export function withEllipsis(surroundings: Surroundings, line: SpacedLine, hand: HandTenths, widthPt: number): EllipsisLine {
  const { block, faces } = surroundings;
  const { start } = line;
  const style = styleAt(block, Math.max(start, line.visibleEnd - 1));
  const ellipsis = shapeLone('…', style, faces);
  const gapPt = milliemToPoints(style.trackingMilliem, style.sizePt) * style.scaleX;
  const items = shapeItems(surroundings, { start, end: line.visibleEnd });
  const upTo = (visibleEnd: number): SpacedLine =>
    visibleEnd === line.visibleEnd ? line : { ...line, visibleEnd, ...spacedRange(surroundings, items, { start, end: visibleEnd }, hand) };
  const ends = [...graphemeBoundaries(block.words.slice(start, line.visibleEnd)).map((at) => at + start), line.visibleEnd];
  const candidates = ends.filter((at) => !isSpace(block.words.charAt(at - 1)) && block.words.charAt(at - 1) !== SOFT_HYPHEN);
  let best: SpacedLine = { ...line, visibleEnd: start, runs: [], widthPt: 0 };
  // Lines grow with their letters, so the longest that fits is found by halving; the whole line is tried first: most often it is the one.
  let [low, high] = [0, candidates.length - 1];
  while (low <= high) {
    const middle = high === candidates.length - 1 && low === 0 ? high : (low + high) >> 1;
    const tried = upTo(candidates[middle] ?? start);
    if (tried.widthPt + gapPt + ellipsis.widthPt <= widthPt) {
      best = tried;
      low = middle + 1;
    } else high = middle - 1;
  }
  return { line: best, ellipsis, gapPt };
}
