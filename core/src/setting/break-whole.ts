/**
 * Break stage: ways that look at a whole paragraph before they decide where its lines end (docs/spacing.md, "Where lines end").
 * Both are dynamic programming over the opportunities of UAX #14.
 */
import type { Breaking, Justify, RagShape, WordRange } from '../job';
import { SOFT_HYPHEN, isWordSpace, trimEnd } from './blank';
import type { LineRange } from './block-setting';
import { type Breaker, FIT_HAIR, type LineWidths, type LineRoom, breakGreedily, fits, opportunitiesOf } from './break';
import { CLOSING, EASY_CLOSE, EASY_OPEN } from './fit';
import { tornAt } from './sense';

/** The input of a way of breaking besides widths. */
export interface BreakingBy {
  breaking: Breaking;
  justify: Justify;
  language: string | null;
  /** True where lines stay as wide as they are: then no space may close. */
  ragged: boolean;
  /** The size of the paragraph's first letter, in points. */
  sizePt: number;
  /** Ends a line may have been given before: then there is nothing to find. */
  given: readonly LineRange[] | undefined;
}

/** The way of breaking a block has. */
export function breakerFor(by: BreakingBy): Breaker {
  const { given } = by;
  if (given) return (_text, { start, end }) => given.filter((line) => line.start >= start && line.end <= end);
  return WAYS[by.breaking.way](by);
}

const WAYS: Readonly<Record<Breaking['way'], (by: BreakingBy) => Breaker>> = {
  greedy: () => breakGreedily,
  even:
    ({ breaking, language }) =>
    (text, paragraph, widths, measure) =>
      breakEvenly({ text, paragraph, widths, measure, language }, breaking.shape),
  total: (by) => (text, paragraph, widths, measure) => breakForSpaces({ text, paragraph, widths, measure, language: by.language }, by),
};

/** A paragraph with more places to break at is broken greedily whatever was asked for: so long, nobody sees the difference. */
const MOST_PLACES = 2000;

interface Asked {
  text: string;
  paragraph: WordRange;
  widths: LineWidths;
  measure: LineRoom;
  language: string | null;
}

/** A break after a word that leans on the next costs as much as a line that is off by this share of its room. */
const TEARS = 0.3;
/** The outermost lines of a shaped rag are this much narrower or wider than the middle. */
const SLOPE = 0.3;

/** How wide a line of several should be, as a share of their mean. */
function shareOf(shape: RagShape, line: number, count: number): number {
  if (shape === 'even' || count < 2) return 1;
  const way = (2 * line) / (count - 1) - 1;
  return 1 + SLOPE * (shape === 'widening' ? way : -way);
}

/** Lines as even as they can be, or of a shape, no more than greedy breaking makes: the least sum of squares of how far each is off. */
function breakEvenly({ text, paragraph, widths, measure, language }: Asked, shape: RagShape): LineRange[] {
  const greedy = breakGreedily(text, paragraph, widths, measure);
  const count = greedy.length;
  if (count < 2) return greedy;
  const { start, end } = paragraph;
  const places = [start, ...opportunitiesOf(text.slice(start, end)).map((at) => start + at)];
  if (places.length > MOST_PLACES) return greedy;
  const seen = places.map((at) => trimEnd(text, start, at));
  const whole = greedy.reduce((sum, line) => sum + widths.about(line.start, line.visibleEnd), 0);
  const mean = whole / count;
  const last = places.length - 1;
  // With so few lines, none can end later than it does greedily, or earlier than when they are filled from the end.
  const latest = greedy.map((line) => places.indexOf(line.end));
  const earliest: number[] = [];
  earliest[count - 1] = last;
  for (let line = count - 2; line >= 0; line--) {
    const to = earliest[line + 1] ?? last;
    let from = to - 1;
    while (from > 0 && fits(text, widths, { start: places[from - 1] ?? 0, end: Math.max(places[from - 1] ?? 0, seen[to] ?? 0) }, measure.others)) from--;
    earliest[line] = from;
  }
  let costs: number[] = places.map((_, j) => (j === 0 ? 0 : Number.POSITIVE_INFINITY));
  const from: number[][] = [];
  for (let line = 0; line < count; line++) {
    const room = line === 0 ? measure.first : measure.others;
    const wanted = Math.min(room, mean * shareOf(shape, line, count));
    const next = places.map(() => Number.POSITIVE_INFINITY);
    const back = places.map(() => -1);
    for (let j = Math.max(line + 1, earliest[line] ?? 0); j <= Math.min(last, latest[line] ?? last); j++) {
      const tears = j < last && tornAt(text, places[j] ?? 0, language) !== undefined ? (TEARS * mean) ** 2 : 0;
      for (let i = Math.min(j - 1, line === 0 ? 0 : (latest[line - 1] ?? last)); i >= (line === 0 ? 0 : (earliest[line - 1] ?? 0)); i--) {
        const range = { start: places[i] ?? 0, end: Math.max(places[i] ?? 0, seen[j] ?? 0) };
        if (!fits(text, widths, range, room) && i < j - 1) break;
        const before = costs[i] ?? Number.POSITIVE_INFINITY;
        if (!Number.isFinite(before)) continue;
        const off = widths.about(range.start, range.end) - wanted;
        const cost = before + off * off + tears;
        if (cost < (next[j] ?? 0)) {
          next[j] = cost;
          back[j] = i;
        }
      }
    }
    costs = next;
    from.push(back);
  }
  if (!Number.isFinite(costs[last] ?? Number.POSITIVE_INFINITY)) return greedy;
  const ends: number[] = [];
  for (let line = count - 1, j = last; line >= 0; line--) {
    ends.unshift(j);
    j = from[line]?.[j] ?? 0;
  }
  return ends.map((j, k): LineRange => {
    const begins = places[k === 0 ? 0 : (ends[k - 1] ?? 0)] ?? start;
    return { start: begins, end: places[j] ?? end, visibleEnd: Math.max(begins, seen[j] ?? end) };
  });
}

/** Demerits of a line that ends in a hyphen, and of one more below it (after Knuth and Plass 1981, their defaults). */
const HYPHEN = 50;
const HYPHENS = 3000;
/** A word that leans on the next, and a last line of one short word, count like a line this bad. */
const TORN = 30;
const STRANDED = 100;
/** A last line shorter than this share of the measure is short. */
const SHORT = 0.15;
/** The cost of an unavoidable overflow, for each measure that it is off. */
const HELPLESS = 1e7;

/** Total fit after Knuth and Plass, "Breaking paragraphs into lines" (1981): the least sum of demerits, word spaces giving way first, then what else may. */
function breakForSpaces(
  { text, paragraph, widths, measure, language }: Asked,
  { justify: { lettersMilliem, width, last }, sizePt, ragged }: BreakingBy,
): LineRange[] {
  const { start, end } = paragraph;
  const places = [start, ...opportunitiesOf(text.slice(start, end)).map((at) => start + at)];
  if (places.length > MOST_PLACES) return breakGreedily(text, paragraph, widths, measure);
  const seen = places.map((at) => trimEnd(text, start, at));
  const spaces = [0];
  for (let at = start; at < end; at++) {
    spaces.push((spaces[at - start] ?? 0) + (isWordSpace(text.charAt(at)) ? widths.about(at, at + 1) : 0));
  }
  const lastPlace = places.length - 1;
  const costs = places.map((_, j) => (j === 0 ? 0 : Number.POSITIVE_INFINITY));
  const from = places.map(() => 0);
  const isHyphen = (j: number): boolean => j < lastPlace && text.charAt((places[j] ?? 0) - 1) === SOFT_HYPHEN;
  for (let j = 1; j <= lastPlace; j++) {
    const hyphen = isHyphen(j);
    const tears = j < lastPlace && tornAt(text, places[j] ?? 0, language) !== undefined ? TORN : 0;
    for (let i = j - 1; i >= 0; i--) {
      const [begins, shown] = [places[i] ?? 0, Math.max(places[i] ?? 0, seen[j] ?? 0)];
      const room = i === 0 ? measure.first : measure.others;
      const natural = hyphen ? widths.exactly(begins, shown) : widths.about(begins, shown);
      const spacesPt = (spaces[shown - start] ?? 0) - (spaces[begins - start] ?? 0);
      const letters = ragged ? 0 : ((shown - begins) * lettersMilliem * sizePt) / 1000;
      const wider = ragged ? 0 : Math.max(0, natural - spacesPt) * width;
      const stretch = EASY_OPEN * spacesPt + letters + wider;
      const shrink = ragged ? FIT_HAIR : EASY_CLOSE * spacesPt + CLOSING * letters + wider;
      const off = room - natural;
      if (off < -shrink && i < j - 1) break;
      let cost: number;
      if (j === lastPlace && last === 'natural' && off >= 0)
        cost = natural < SHORT * room && i > 0 && !text.slice(begins, shown).includes(' ') ? (1 + STRANDED) ** 2 : 1;
      else if (off < -shrink || (stretch === 0 && off > 0)) cost = HELPLESS * (1 + Math.abs(off) / room);
      else {
        const ratio = off < 0 ? off / shrink : stretch > 0 ? off / stretch : 0;
        const penalty = (hyphen ? HYPHEN : 0) + tears;
        cost = (1 + 100 * Math.abs(ratio) ** 3 + penalty) ** 2 + (hyphen && isHyphen(i) ? HYPHENS : 0);
      }
      const all = (costs[i] ?? 0) + cost;
      if (all < (costs[j] ?? 0)) {
        costs[j] = all;
        from[j] = i;
      }
    }
  }
  const lines: LineRange[] = [];
  for (let j = lastPlace; j > 0; j = from[j] ?? 0) {
    const begins = places[from[j] ?? 0] ?? start;
    lines.unshift({ start: begins, end: places[j] ?? end, visibleEnd: Math.max(begins, seen[j] ?? end) });
  }
  return lines.length > 0 ? lines : [{ start, end, visibleEnd: trimEnd(text, start, end) }];
}
