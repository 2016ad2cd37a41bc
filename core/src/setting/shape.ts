/** Shape stage: items become shaped letters, in font units. The only caller of the shaper. */
import type { FaceInstance, FeatureRange, ShapedGlyph } from '../face';
import type { Block, WordRange } from '../job';
import { SOFT_HYPHEN } from './blank';
import { CONTEXT, type Item, type Span, type Surroundings, itemise, toWords } from './itemise';
import { keptBy, knownOf } from '../base';
import { isCursive } from './scripts';
import { kernsSpaces } from '../spacing';

/** An item after shaping. Offsets are into the block's words. */
export interface ShapedItem extends WordRange {
  instance: FaceInstance;
  level: number;
  /** Of its letters (ISO 15924); none where they are of no script in particular. */
  script: string | undefined;
  /** True where strokes join the letters, so that nothing may come between them. */
  cursive: boolean;
  /** Letters of the words that are shown as several, such as a German sharp s in capitals, by where they begin. */
  expanded?: ReadonlySet<number>;
  /** In visual order; `cluster` counts from the beginning of the block's words. */
  readonly glyphs: readonly ShapedGlyph[];
  /** The styles of the letters, in the order of the words. */
  spans: readonly Span[];
  /** All words of the block, that clusters count in. */
  words: string;
}

/** Whether the font's own kerning is used as the style says, or left out to see what it holds. */
export type KerningMode = 'as-styled' | 'without' | 'with';

/** The features that join letters (OpenType): off where they are tracked. */
export const LIGATURE_FEATURES = ['liga', 'clig', 'dlig', 'hlig'] as const;

/** Shapes part of one paragraph of a block; items come in the order of the words. */
export function shapeItems(surroundings: Surroundings, stretch: WordRange, kerning: KerningMode = 'as-styled'): ShapedItem[] {
  const places = handPlaces(surroundings.block);
  const { words } = surroundings.block;
  return itemise(surroundings, stretch).map((item) => shapeItem(item, words, places, kerning));
}

/** Features over ranges that one call may be given: HarfBuzz as built takes some 4,000 before it writes past its memory. */
const MOST_RANGES = 800;
/** Pieces of a longer item see this many code units of their neighbours, so that kerning reaches across. */
const OVERLAP = 32;

function shapeItem(item: Item, words: string, places: ReadonlySet<number>, kerning: KerningMode): ShapedItem {
  const { start, end, instance, level } = item;
  const cursive = isCursive(item.script);
  const global: FeatureRange[] = [];
  for (const tag in item.features) global.push({ tag, value: item.features[tag] ?? 0 });
  const ranges = rangesFor(item.spans, kerning);
  let glyphs = shapeInPieces(item, global, ranges);
  const joined = joinedPlaces(item, places, glyphs);
  if (joined.length > 0) {
    const apart = joined.flatMap((at) => LIGATURE_FEATURES.map((tag) => ({ tag, value: 0, start: at, end: at + 1 })));
    ranges.push(...apart);
    glyphs = shapeInPieces(item, global, ranges);
  }
  if (kerning === 'as-styled' && asksFont(item)) noteFontKerns(glyphs, shapeInPieces(item, global, withKerning(ranges)));
  if (item.base === 0 && !item.changed) return { start, end, instance, level, script: item.script, cursive, glyphs, spans: item.spans, words };
  for (const glyph of glyphs) glyph.cluster = toWords(item, glyph.cluster);
  const spans = item.spans.map((span) => ({ start: toWords(item, span.start), end: toWords(item, span.end), style: span.style }));
  const expanded = expandedIn(item);
  const shaped = { start: toWords(item, start), end: toWords(item, end), instance, level, script: item.script, cursive, glyphs, spans, words };
  return expanded.size > 0 ? { ...shaped, expanded } : shaped;
}

/** True where kerning that isn't the font's still asks what the font holds. */
const asksFont = ({ spans, instance }: Item): boolean =>
  spans.some(({ style: { kerning } }) => kerning === 'weighed' || (kerning === 'shape' && kernsSpaces(instance.face)));

const withKerning = (ranges: readonly FeatureRange[]): FeatureRange[] => [...ranges.filter(({ tag }) => tag !== 'kern'), { tag: 'kern', value: 1 }];

/** Notes at each glyph how much farther the next would stand with the font's kerning; nothing where kerning has chosen other glyphs. */
function noteFontKerns(glyphs: readonly ShapedGlyph[], kerned: readonly ShapedGlyph[]): void {
  if (glyphs.length !== kerned.length || glyphs.some(({ glyphId, cluster }, i) => glyphId !== kerned[i]?.glyphId || cluster !== kerned[i].cluster)) return;
  glyphs.forEach((glyph, i) => {
    const [with_, next, withNext] = [kerned[i], glyphs[i + 1], kerned[i + 1]];
    if (with_ && next && withNext) glyph.fontKern = with_.xAdvance - with_.xOffset + withNext.xOffset - (glyph.xAdvance - glyph.xOffset + next.xOffset);
  });
}

/** The places in the words that more than one letter is shown for. */
function expandedIn({ text, changed }: Item): Set<number> {
  const found = new Set<number>();
  changed?.places.forEach((place, i) => {
    const at = changed.from + i;
    if (i > 0 && place === changed.places[i - 1] && !/\p{M}/u.test(text.charAt(at))) found.add(place);
  });
  return found;
}

/** The features by which styles change shaping but not glyphs: no kerning of the font's, and, where letters are tracked, no ligatures. */
function rangesFor(spans: readonly Span[], kerning: KerningMode): FeatureRange[] {
  const ranges: FeatureRange[] = [];
  for (const { start, end, style } of spans) {
    const place = spans.length === 1 ? undefined : { start, end };
    if (kerning === 'without' || (kerning === 'as-styled' && style.kerning !== 'font')) ranges.push({ tag: 'kern', value: 0, ...place });
    if (kerning === 'with') ranges.push({ tag: 'kern', value: 1, ...place });
    if (style.trackingMilliem !== 0) for (const tag of LIGATURE_FEATURES) ranges.push({ tag, value: 0, ...place });
  }
  return ranges;
}

/**
 * Shapes an item with features over any number of ranges: in overlapping pieces where there are many.
 * @returns glyphs whose clusters count in the item's text
 */
function shapeInPieces(item: Item, global: readonly FeatureRange[], ranges: readonly FeatureRange[]): ShapedGlyph[] {
  const { start, end } = item;
  if (ranges.length <= MOST_RANGES) return shapeText(item, start, end, [...global, ...ranges]);
  const sorted = [...ranges].sort((a, b) => (a.start ?? 0) - (b.start ?? 0));
  const cuts = [start];
  for (let i = MOST_RANGES; i < sorted.length; i += MOST_RANGES) {
    const at = sorted[i]?.start ?? start;
    if (at > (cuts[cuts.length - 1] ?? start)) cuts.push(at);
  }
  cuts.push(end);
  const pieces: ShapedGlyph[][] = [];
  let first = 0;
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [pieceStart = start, pieceEnd = end] = [cuts[i], cuts[i + 1]];
    const [from, to] = [Math.max(start, pieceStart - OVERLAP), Math.min(end, pieceEnd + OVERLAP)];
    while (first < sorted.length && (sorted[first]?.end ?? end) <= from) first++;
    const own: FeatureRange[] = [];
    for (let r = first; r < sorted.length; r++) {
      const range = sorted[r];
      if (!range || (range.start ?? 0) >= to) break;
      if ((range.end ?? end) > from) own.push(range);
    }
    pieces.push(shapeText(item, from, to, [...global, ...own]).filter(({ cluster }) => cluster >= pieceStart && cluster < pieceEnd));
  }
  return (item.runs === 'left' ? pieces.reverse() : pieces).flat();
}

/** Controls have no glyph and stand for none: they are set as blanks. */
// eslint-disable-next-line no-control-regex -- these are what is looked for
const CONTROL = /[\u0000-\u001f\u007f-\u009f]/;
const CONTROLS = new RegExp(CONTROL, 'g');

/** Shapes part of an item's text with only its near surroundings, so that many small parts of a long text cost no more than the text. */
function shapeText(item: Item, start: number, end: number, features: readonly FeatureRange[]): ShapedGlyph[] {
  const { text: shown, instance, script, runs, language } = item;
  if (end - start === 1 && isPlainLatin(shown.charCodeAt(start)) && features.every((one) => one.start === undefined)) return shapeAlone(item, start, features);
  const text = CONTROL.test(shown) ? shown.replace(CONTROLS, ' ') : shown;
  const base = Math.max(0, start - CONTEXT);
  if (base === 0 && end + CONTEXT >= text.length) return instance.shape(text, start, end, features, script, runs, language);
  const near = text.slice(base, end + CONTEXT);
  const moved = features.map((one) =>
    one.start === undefined || one.end === undefined ? one : { ...one, start: Math.max(0, one.start - base), end: one.end - base },
  );
  const glyphs = instance.shape(near, start - base, end - base, moved, script, runs, language);
  for (const glyph of glyphs) glyph.cluster += base;
  return glyphs;
}

/** Latin letters, figures and marks up to U+024F: what stands around them but isn't shaped with them changes nothing. */
const isPlainLatin = (unit: number): boolean => unit > 0x20 && unit < 0x250 && !(unit > 0x7e && unit < 0xa1) && unit !== SOFT_HYPHEN.charCodeAt(0);

/** Letters that were shaped alone, by everything that was asked of the shaper: at the end of most lines one is, without the blank behind it. */
const shapedAlone = new WeakMap<FaceInstance, Map<string, readonly ShapedGlyph[]>>();
const MOST_ALONE = 1000;

function shapeAlone({ text, instance, script, runs, language }: Item, at: number, features: readonly FeatureRange[]): ShapedGlyph[] {
  const letter = text.charAt(at);
  let key = `${letter} ${script ?? ''} ${runs ?? ''} ${language ?? ''}`;
  for (const { tag, value } of features) key += ` ${tag}${value}`;
  const known = knownOf(shapedAlone, instance, () => new Map<string, readonly ShapedGlyph[]>());
  const glyphs = keptBy(known, key, MOST_ALONE, () => instance.shape(letter, 0, 1, features, script, runs, language));
  // Each its own, since clusters are moved to where they count from.
  return glyphs.map(({ glyphId, xAdvance, xOffset, yOffset, unsafeToBreak }) => ({ glyphId, cluster: at, xAdvance, xOffset, yOffset, unsafeToBreak }));
}

const handPlacesOf = new WeakMap<Block['hand'], ReadonlySet<number>>();

/** The places of a block that have hand values. */
const handPlaces = ({ hand }: Block): ReadonlySet<number> => knownOf(handPlacesOf, hand, () => new Set(hand.map(({ at }) => at)));

/** The places, in an item's text, where shaping has joined letters that must be apart: beside a hand value, and where the style changes. */
function joinedPlaces(item: Item, places: ReadonlySet<number>, glyphs: readonly ShapedGlyph[]): number[] {
  const { start, end, spans } = item;
  if (places.size === 0 && spans.length === 1) return [];
  const starts = new Set(glyphs.map(({ cluster }) => cluster));
  const joined = new Set<number>();
  for (const span of spans) if (span.start > start && !starts.has(span.start)) joined.add(span.start);
  if (places.size > 0) for (let at = start + 1; at < end; at++) if (!starts.has(at) && places.has(toWords(item, at))) joined.add(at);
  return [...joined].sort((a, b) => a - b);
}
