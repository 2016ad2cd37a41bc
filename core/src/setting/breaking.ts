/** Where a paragraph becomes lines: greedy, at the opportunities of UAX #14. */
import LineBreaker from 'linebreak';

const SPACE = /^\p{Zs}$/u;

/** True for a character that is a word space or another blank without ink. */
export function isSpace(character: string): boolean {
  return character === ' ' || (character > '~' && SPACE.test(character)) || character === '\t';
}

/** The offset before the blanks that end `text.slice(start, end)`. */
export function trimEnd(text: string, start: number, end: number): number {
  let at = end;
  while (at > start && isSpace(text.charAt(at - 1))) at--;
  return at;
}

/** A line's stretch of words; `visibleEnd` leaves out the blanks that hang past it. */
export interface LineRange {
  start: number;
  end: number;
  visibleEnd: number;
}

/**
 * Breaks one paragraph greedily. A word wider than the measure keeps its line and sticks out.
 * @param start, end the paragraph in `text`.
 * @param widths gives the width of a stretch set on one line, in any unit.
 * @param measure the width available, in the same unit; @param firstMeasure that of the first line, where it is indented.
 */
export function breakGreedily(
  text: string,
  start: number,
  end: number,
  widths: { between(start: number, end: number): number },
  measure: number,
  firstMeasure = measure,
): LineRange[] {
  if (widths.between(start, trimEnd(text, start, end)) <= firstMeasure) return [{ start, end, visibleEnd: trimEnd(text, start, end) }];
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
    const available = lines.length === 0 ? firstMeasure : measure;
    if (fitting !== undefined && widths.between(lineStart, trimEnd(text, lineStart, at)) > available) close(fitting);
    fitting = at;
  }
  if (lineStart < end || lines.length === 0) close(end);
  return lines;
}
