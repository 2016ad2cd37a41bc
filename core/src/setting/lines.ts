/** The way of a paragraph from words to lines of spaced letters: itemise, shape, space, break, reorder. */
import { type WordRange, styleAt } from '../job';
import { SOFT_HYPHEN, trimEnd } from './blank';
import { FIT_HAIR, type LineRoom, opportunitiesOf } from './break';
import { type BreakingBy, breakerFor } from './break-whole';
import type { LineRange } from './block-setting';
import { cutItems } from './cut';
import { type OpenLine, perMilliem } from './fit';
import type { Surroundings } from './itemise';
import { isHardBreak } from './paragraphs';
import { inVisualOrder } from './reorder';
import { type ShapedItem, shapeItems } from './shape';
import { sliceOf } from './slice';
import { type HandTenths, type SpacedRun, space, runsWidth } from './space';
import { runsOf } from './spans';
import { widthsOf } from './widths';

/** A line shaped and spaced, in the order its letters stand in; not placed yet. */
export interface SpacedLine extends LineRange, OpenLine {}

/** A paragraph whose letters are spaced, as it can be asked for any of its lines. */
interface OpenParagraph {
  spaced: readonly SpacedRun[];
  lineOf(range: WordRange): OpenLine;
}

function openParagraph(surroundings: Surroundings, hand: HandTenths): OpenParagraph {
  const { block, paragraph } = surroundings;
  const { words } = block;
  const items = shapeItems(surroundings, paragraph);
  const spaced = space(words, runsOf(items), hand);
  const lineOf = (range: WordRange): OpenLine => {
    if (endsInHyphen(words, range.end)) return hyphenated(surroundings, range, hand);
    return sliceOf({ surroundings, spaced, hand }, range) ?? spacedRange(surroundings, items, range, hand);
  };
  return { spaced, lineOf };
}

/** `lineOf` with a cache by the line's start and end: ways to break ask for the same line many times. */
function kept({ lineOf }: OpenParagraph, words: string): (from: number, to: number) => OpenLine {
  const known = new Map<number, OpenLine>();
  return (from, to) => {
    const key = from * (words.length + 1) + to;
    let line = known.get(key);
    if (!line) known.set(key, (line = lineOf({ start: from, end: to })));
    return line;
  };
}

/** The lines of one paragraph. @param given the lines of the block, where their ends are known. */
export function spacedLinesOf(surroundings: Surroundings, hand: HandTenths, measure: LineRoom, given?: readonly LineRange[]): SpacedLine[] {
  const { block, paragraph } = surroundings;
  const { words } = block;
  const { start, end } = paragraph;
  const opened = openParagraph(surroundings, hand);
  const { spaced, lineOf } = opened;
  const visibleEnd = trimEnd(words, start, end);
  // By far the most paragraphs are one line: that is set, and asked whether it fits, before anything is worked out for breaking.
  if (!given && runsWidth(spaced) <= measure.first * SURELY_TOO_WIDE) {
    const whole = lineOf({ start, end: visibleEnd });
    if (whole.widthPt <= measure.first + FIT_HAIR) return [{ start, end, visibleEnd, runs: whole.runs, widthPt: whole.widthPt }];
  }
  const setLine = kept(opened, words);
  const slackPt = (paragraph.levels ? SLACK_JOINED : SLACK) * Math.max(...spaced.map(({ style }) => style.sizePt * style.scaleX));
  const { between: about, isSafe } = widthsOf(words, paragraph, spaced);
  const exactly = (from: number, to: number): number => setLine(from, to).widthPt;
  const breakInto = breakerFor(breakingBy(surroundings, given));
  return breakInto(words, paragraph, { about, isSafe, slackPt, exactly }, measure).map(({ start: from, end: to, visibleEnd: seen }) => {
    // Written out: spreading took longer than setting a line.
    const { runs, widthPt } = setLine(from, seen);
    return { start: from, end: to, visibleEnd: seen, runs, widthPt };
  });
}

/** A paragraph as those look at it who weigh where its lines could end. */
export interface BreakableParagraph extends WordRange {
  /** Where lines may begin and end: its own beginning first, its end last. */
  places: readonly number[];
  /** The width of the line between two of the places by their index, and what 1/1000 em more of letter space adds to it, in points. */
  line(from: number, to: number): { widthPt: number; perLetterPt: number };
}

export function breakable(surroundings: Surroundings, hand: HandTenths): BreakableParagraph {
  const { block, paragraph } = surroundings;
  const { start, end } = paragraph;
  const setLine = kept(openParagraph(surroundings, hand), block.words);
  const places = [start, ...opportunitiesOf(block.words.slice(start, end)).map((at) => start + at)];
  return {
    start,
    end,
    places,
    line: (from, to) => {
      const begins = places[from] ?? start;
      const { runs, widthPt } = setLine(begins, trimEnd(block.words, begins, places[to] ?? end));
      return { widthPt, perLetterPt: perMilliem(block.words, runs).perLetterPt };
    },
  };
}

const breakingBy = ({ block, paragraph }: Surroundings, given: readonly LineRange[] | undefined): BreakingBy => ({
  breaking: block.breaking,
  justify: block.justify,
  language: block.language,
  ragged: block.align !== 'justified',
  sizePt: styleAt(block, paragraph.start).sizePt,
  given,
});

/** Letters beside an end of a line may stand otherwise than in their paragraph: by less than this, in em; more where strokes join them. */
const SLACK = 0.15;
const SLACK_JOINED = 0.7;

/** True where a line that ends before an offset shows a hyphen: it divides a word at a soft one. */
export const endsInHyphen = (words: string, end: number): boolean =>
  words.charAt(end - 1) === SOFT_HYPHEN && end < words.length && !isHardBreak(words.charAt(end));

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
  return { runs, widthPt: runsWidth(runs) };
}
