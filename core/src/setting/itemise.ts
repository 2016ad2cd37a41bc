/**
 * Where words are cut before they are shaped: only at what chooses glyphs. Size, colour, tracking and everything else are spans over
 * letters that keep their neighbours.
 */
import type { FaceInstance } from '../face';
import { type Block, type Style, type WordRange, styledRanges } from '../job';
import { firstIndex } from '../base';
import type { FaceSet } from './faces';
import { type ShownRange, showCase } from './letter-case';
import type { ParagraphRange } from './paragraphs';
import { type ScriptRange, scriptRanges } from './scripts';

/** The surroundings of letters: the block they belong to, their paragraph, which is the context they are shaped in, and the faces. */
export interface Surroundings {
  readonly block: Block;
  readonly paragraph: ParagraphRange;
  readonly faces: FaceSet;
}

/** Part of an item in one style. */
export interface Span extends WordRange {
  style: Style;
}

/** Letters as they are shown, with their near surroundings, and where each of them comes from. */
interface Shown {
  text: string;
  /** Where the text begins in the block's words. */
  base: number;
  /** Where other letters may be shown than the words have: each one's place in the words, from `from` on, and where the words go on. */
  changed: { from: number; places: readonly number[]; to: number } | undefined;
}

/** The offset in the block's words of an offset in what is shown. */
export function toWords({ base, changed }: Shown, at: number): number {
  if (!changed || at < changed.from) return at + base;
  return changed.places[at - changed.from] ?? changed.to + at - changed.from - changed.places.length;
}

/** Letters that are shaped together. Offsets are into `text`; `toWords` leads from there to the block's words. */
export interface Item extends WordRange, Shown {
  instance: FaceInstance;
  /** The features that choose glyphs, by tag. */
  features: Style['features'];
  /** ISO 15924; absent where HarfBuzz should guess. */
  script: string | undefined;
  /** Embedding level (UAX #9): odd where the letters run to the left. */
  level: number;
  /** Which way the letters run; absent where everything runs to the right. */
  runs: 'left' | 'right' | undefined;
  /** BCP 47; absent where nothing was said. */
  language: string | undefined;
  /** The styles of the letters, in order, without gaps. */
  spans: Span[];
}

/** How many code units around a stretch are given to the shaper as context: more than the five code points HarfBuzz looks at. */
export const CONTEXT = 16;

/** A shown range with the instance that draws it. */
interface Piece extends ShownRange {
  instance: FaceInstance;
}

/**
 * Cuts part of one paragraph of a block.
 * @param stretch what to cut, inside the paragraph.
 * @returns items in the order of the words
 */
export function itemise({ block, paragraph, faces }: Surroundings, stretch: WordRange): Item[] {
  const { words } = block;
  const { levels } = paragraph;
  const items: Item[] = [];
  for (const group of groupsOf(block, stretch, faces)) {
    const first = group[0];
    if (!first) continue;
    const { shown, start, end, spans } = shownText(words, paragraph, group);
    const parts = scriptRanges(shown.text, start, end);
    for (const part of levels ? parts.flatMap((one) => levelRanges(one, (at) => levels[toWords(shown, at) - paragraph.start] ?? 0)) : parts) {
      const level = levels?.[toWords(shown, part.start) - paragraph.start] ?? 0;
      items.push({
        // One by one: spreading an object here took half of the time of a short headline.
        text: shown.text,
        base: shown.base,
        changed: shown.changed,
        start: part.start,
        end: part.end,
        instance: first.instance,
        features: first.style.features,
        script: part.script,
        level,
        language: block.language ?? undefined,
        runs: levels && (level % 2 === 1 ? 'left' : 'right'),
        spans: parts.length === 1 && !levels ? spans : spansWithin(spans, part),
      });
    }
  }
  return items;
}

/** Neighbouring ranges that one call can shape: the same face at the same place in its design space, the same features. */
function groupsOf(block: Block, stretch: WordRange, faces: FaceSet): Piece[][] {
  // By far the most words are in one style and shown as they are.
  if (block.runs.length === 0 && block.style.case === 'typed') {
    return stretch.end > stretch.start ? [[{ start: stretch.start, end: stretch.end, style: block.style, instance: faces.instance(block.style) }]] : [];
  }
  const groups: Piece[][] = [];
  let open: Piece[] = [];
  for (const range of styledRanges(block, stretch.start, stretch.end)) {
    const instance = faces.instance(range.style);
    for (const shown of showCase(block.words, range, instance, block.language ?? undefined)) {
      const before = open[open.length - 1];
      if (before?.instance === instance && sameFeatures(before.style.features, shown.style.features)) open.push({ ...shown, instance });
      else {
        open = [{ ...shown, instance }];
        groups.push(open);
      }
    }
  }
  return groups;
}

const sameFeatures = (a: Style['features'], b: Style['features']): boolean =>
  a === b || (Object.keys(a).length === Object.keys(b).length && Object.keys(a).every((tag) => a[tag] === b[tag]));

/** The text of a group as it is shown, with what stands around it in the paragraph. */
function shownText(words: string, paragraph: WordRange, group: readonly Piece[]): WordRange & { shown: Shown; spans: Span[] } {
  const from = group[0]?.start ?? paragraph.start;
  const to = group[group.length - 1]?.end ?? from;
  const base = Math.max(paragraph.start, from - CONTEXT);
  const behind = Math.min(paragraph.end, to + CONTEXT);
  const spans: Span[] = [];
  if (group.every(isAsTyped)) {
    for (const { start, end, style } of group) spans.push({ start: start - base, end: end - base, style });
    return { shown: { text: words.slice(base, behind), base, changed: undefined }, start: from - base, end: to - base, spans };
  }
  const places: number[] = [];
  let shown = '';
  for (const piece of group) {
    const start = from - base + shown.length;
    shown += piece.shown ?? words.slice(piece.start, piece.end);
    if (piece.from) places.push(...piece.from);
    else for (let at = piece.start; at < piece.end; at++) places.push(at);
    spans.push({ start, end: from - base + shown.length, style: piece.style });
  }
  const start = from - base;
  const text = words.slice(base, from) + shown + words.slice(to, behind);
  return { shown: { text, base, changed: { from: start, places, to } }, start, end: start + shown.length, spans };
}

const isAsTyped = ({ shown }: Piece): boolean => shown === undefined;

/** A stretch in one script, cut where its letters change direction. */
function levelRanges(range: ScriptRange, levelAt: (at: number) => number): ScriptRange[] {
  const ranges: ScriptRange[] = [];
  let { start } = range;
  for (let at = start + 1; at <= range.end; at++) {
    if (at < range.end && levelAt(at) === levelAt(start)) continue;
    ranges.push({ ...range, start, end: at });
    start = at;
  }
  return ranges;
}

/** The parts of spans inside a stretch. */
function spansWithin(spans: readonly Span[], { start, end }: WordRange): Span[] {
  const within: Span[] = [];
  for (let i = firstIndex(spans.length, (at) => (spans[at]?.end ?? 0) > start); i < spans.length; i++) {
    const span = spans[i];
    if (!span || span.start >= end) break;
    within.push({ start: Math.max(start, span.start), end: Math.min(end, span.end), style: span.style });
  }
  return within;
}
