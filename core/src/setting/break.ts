/** Break stage: where a paragraph becomes lines, at the opportunities of UAX #14: as full as they go. Other ways are in `break-whole.ts`. */
import { Rules } from '@cto.af/linebreak';
import type { WordRange } from '../job';
import { SOFT_HYPHEN, trimEnd } from './blank';
import type { LineRange } from './block-setting';
import { keptBy } from '../base';

/** Room for lines, in the unit of the widths. */
export interface LineRoom {
  /** The room of every line but the first. */
  others: number;
  /** That of the first, where it is indented. */
  first: number;
}

/** Sums of widths are off by less than this, in points: a line that fits exactly fits. */
export const FIT_HAIR = 1e-6;

/** Words of plain Latin letters and figures, each with a mark behind it at most, apart by blanks: lines end behind the blanks, and nowhere else. */
const PLAIN = /^[a-z0-9]+[.,;:!?]?(?: +[a-z0-9]+[.,;:!?]?)* *$/i;

/** Where lines may end (UAX #14): offsets in the text, the last its end. */
export const opportunitiesOf = (text: string): readonly number[] =>
  keptBy(asked, text, MOST_ASKED, () => (PLAIN.test(text) ? behindBlanks(text) : [...RULES.breaks(text)].map(({ position }) => position)));

function behindBlanks(text: string): number[] {
  const found: number[] = [];
  for (let at = text.indexOf(' '); at >= 0; at = text.indexOf(' ', at)) {
    while (text.charCodeAt(at) === 0x20) at++;
    if (at < text.length) found.push(at);
  }
  found.push(text.length);
  return found;
}

/**
 * Unicode's rules with numbers as they are written (UAX #14, section 8.2, example 7), as its own test has them. The package finds the rules
 * that these take the place of by the names of functions, which a bundle has changed: so they are found by where they stand.
 */
class NumberRules extends Rules {
  override replaceRule(name: string, ...rules: Rules['rules']): Rules['rules'] {
    const at = WIDTH_PLACES[name];
    return at === undefined ? [] : this.rules.splice(at, 1, ...rules);
  }
}

/** Where rules stand in the package's list, in the version that is pinned. */
export const WIDTH_PLACES: Readonly<Record<string, number>> = { LB13: 14, LB25: 30 };

const RULES = new NumberRules({ example7: true });

/** Opportunities of the texts asked for last: a text is broken again at every change of its style. */
const asked = new Map<string, readonly number[]>();
const MOST_ASKED = 64;

/** How wide a stretch of a paragraph would be as a line, in points. */
export interface LineWidths {
  /** Off by no more than `slackPt`, and by nothing between safe places. */
  about(start: number, end: number): number;
  isSafe(at: number): boolean;
  slackPt: number;
  /** The line itself is set for it. */
  exactly(start: number, end: number): number;
}

/** A line fits its room; it is set to see whether it does where that is near. */
export function fits(text: string, widths: LineWidths, { start: from, end: to }: WordRange, room: number): boolean {
  if (text.charAt(to - 1) === SOFT_HYPHEN) return widths.exactly(from, to) <= room + FIT_HAIR;
  const about = widths.about(from, to);
  if (Math.abs(about - room) > widths.slackPt || (widths.isSafe(from) && widths.isSafe(to))) return about <= room + FIT_HAIR;
  return widths.exactly(from, to) <= room + FIT_HAIR;
}

/** Finds the lines of one paragraph. @param text what the paragraph's offsets count in. */
export type Breaker = (text: string, paragraph: WordRange, widths: LineWidths, measure: LineRoom) => LineRange[];

/** Breaks one paragraph greedily. A word wider than the measure keeps its line and sticks out. */
export const breakGreedily: Breaker = (text, { start, end }, widths, measure) => {
  const visible = trimEnd(text, start, end);
  if (fits(text, widths, { start, end: visible }, measure.first)) return [{ start, end, visibleEnd: visible }];
  const lines: LineRange[] = [];
  let lineStart = start;
  let fitting: number | undefined;
  const close = (at: number): void => {
    lines.push({ start: lineStart, end: at, visibleEnd: trimEnd(text, lineStart, at) });
    lineStart = at;
    fitting = undefined;
  };
  for (const position of opportunitiesOf(text.slice(start, end))) {
    const at = start + position;
    const room = lines.length === 0 ? measure.first : measure.others;
    if (fitting !== undefined && !fits(text, widths, { start: lineStart, end: trimEnd(text, lineStart, at) }, room)) close(fitting);
    fitting = at;
  }
  if (lineStart < end || lines.length === 0) close(end);
  return lines;
};
