/** Break stage: where a paragraph becomes lines: greedy, at the opportunities of UAX #14. */
import LineBreaker from 'linebreak';
import type { WordRange } from '../job';
import { trimEnd } from './blank';
import type { LineRange } from './block-setting';
import type { Widths } from './widths';

/** Room for lines, in the unit of the widths. */
export interface Measure {
  /** The room of every line but the first. */
  others: number;
  /** That of the first, where it is indented. */
  first: number;
}

/**
 * Breaks one paragraph greedily. A word wider than the measure keeps its line and sticks out.
 * @param text what the paragraph's offsets count in.
 */
export function breakGreedily(text: string, { start, end }: WordRange, widths: Widths, measure: Measure): LineRange[] {
  const visible = trimEnd(text, start, end);
  if (widths.between(start, visible) <= measure.first) return [{ start, end, visibleEnd: visible }];
  const lines: LineRange[] = [];
  const breaker = new LineBreaker(text.slice(start, end));
  let lineStart = start;
  let fitting: number | undefined;
  const close = (at: number): void => {
    lines.push({ start: lineStart, end: at, visibleEnd: trimEnd(text, lineStart, at) });
    lineStart = at;
    fitting = undefined;
  };
  for (let opportunity = breaker.nextBreak(); opportunity; opportunity = breaker.nextBreak()) {
    const at = start + opportunity.position;
    const available = lines.length === 0 ? measure.first : measure.others;
    if (fitting !== undefined && widths.between(lineStart, trimEnd(text, lineStart, at)) > available) close(fitting);
    fitting = at;
  }
  if (lineStart < end || lines.length === 0) close(end);
  return lines;
}
