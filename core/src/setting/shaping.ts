/** Words to shaped runs: the font's part of a setting, in font units, before anything is placed. */
import type { FaceInstance, FeatureRange, ShapedGlyph } from '../face';
import { type Block, type Style, styledRanges } from '../job';
import { levelsOf } from './bidi';
import type { FaceSet } from './faces';
import { showCase } from './letter-case';
import { type ScriptRange, scriptRanges } from './scripts';

/** A stretch of words in one style and script, shaped. Offsets are into the block's words. */
export interface ShapedRun {
  start: number;
  end: number;
  style: Style;
  instance: FaceInstance;
  /** Embedding level (UAX #9): odd where the letters run to the left. */
  level: number;
  /** In visual order; `cluster` counts from the beginning of the block's words. */
  glyphs: ShapedGlyph[];
  /** Kerning by shape after each glyph, in tenths of 1/1000 em; absent where the style takes none. */
  kerns?: number[];
}

/** A stretch of words, in UTF-16 offsets. */
export interface Stretch {
  start: number;
  end: number;
}

/** How many code units around a stretch are given to the shaper as context: more than the five code points HarfBuzz looks at. */
const CONTEXT = 16;

/** Whether the font's own kerning is used as the style says, or left out to see what it holds. */
export type KerningMode = 'as-styled' | 'without' | 'with';

const LIGATURE_FEATURES = ['liga', 'clig', 'dlig', 'hlig'] as const;
const LIGATURES_OFF: readonly FeatureRange[] = LIGATURE_FEATURES.map((tag) => ({ tag, value: 0 }));

/**
 * Shapes part of one paragraph of a block. The runs come in the order of the words; `inVisualOrder` puts those of a line as they stand.
 * @param paragraph first and last offset of the paragraph, which is the context letters are shaped in.
 * @param stretch what to shape, inside the paragraph.
 */
export function shapeRange(block: Block, paragraph: Stretch, stretch: Stretch, faces: FaceSet, kerning: KerningMode = 'as-styled'): ShapedRun[] {
  const { words } = block;
  const levels = levelsOf(words, paragraph);
  const places = handPlaces(block);
  const runs: ShapedRun[] = [];
  for (const range of styledRanges(block, stretch.start, stretch.end)) {
    const instance = faces.instance(range.style);
    for (const { start, end, style, shown, from } of showCase(words, range, instance)) {
      const features = featuresFor(style, kerning);
      const base = Math.max(paragraph.start, start - CONTEXT);
      const behind = Math.min(paragraph.end, end + CONTEXT);
      const text = shown === undefined ? words.slice(base, behind) : words.slice(base, start) + shown + words.slice(end, behind);
      const length = shown === undefined ? end - start : shown.length;
      const toWords = (at: number): number => from?.[at + base - start] ?? (from && at + base - start >= from.length ? end : at + base);
      const levelAt = (at: number): number => levels?.[toWords(at) - paragraph.start] ?? 0;
      const parts = scriptRanges(text, start - base, start - base + length);
      for (const part of levels ? parts.flatMap((one) => levelRanges(one, levelAt)) : parts) {
        const level = levelAt(part.start);
        const runsTo = levels && (level % 2 === 1 ? 'left' : 'right');
        const shape = (from: number, to: number, own: readonly FeatureRange[]): ShapedGlyph[] =>
          shapeInContext(instance, text, from, to, own, part.script, runsTo);
        let glyphs = shape(part.start, part.end, features);
        const joined = places.size > 0 ? joinedPlaces(places, glyphs, part, toWords) : [];
        if (joined.length > 0) glyphs = shapeApart(shape, glyphs, part, joined, features);
        if (base !== 0 || from) for (const glyph of glyphs) glyph.cluster = toWords(glyph.cluster);
        runs.push({ start: toWords(part.start), end: toWords(part.end), style, instance, level, glyphs });
      }
    }
  }
  return runs;
}

/** Shapes part of a text with only its near surroundings, so that many small parts of a long text cost no more than the text. */
function shapeInContext(
  instance: FaceInstance,
  text: string,
  start: number,
  end: number,
  features: readonly FeatureRange[],
  script: string | undefined,
  runsTo: 'left' | 'right' | undefined,
): ShapedGlyph[] {
  const base = Math.max(0, start - CONTEXT);
  const near = base === 0 && end + CONTEXT >= text.length ? text : text.slice(base, end + CONTEXT);
  const moved =
    base === 0
      ? features
      : features.map((one) => (one.start === undefined || one.end === undefined ? one : { ...one, start: one.start - base, end: one.end - base }));
  const glyphs = instance.shape(near, start - base, end - base, moved, script, runsTo);
  if (base !== 0) for (const glyph of glyphs) glyph.cluster += base;
  return glyphs;
}

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

/** The features of a run; tracking takes all its ligatures apart. */
function featuresFor(style: Style, kerning: KerningMode): FeatureRange[] {
  const features: FeatureRange[] = [];
  for (const tag in style.features) features.push({ tag, value: style.features[tag] ?? 0 });
  if (kerning === 'without' || (kerning === 'as-styled' && style.kerning !== 'font')) features.push({ tag: 'kern', value: 0 });
  if (kerning === 'with') features.push({ tag: 'kern', value: 1 });
  if (style.trackingMilliem !== 0) features.push(...LIGATURES_OFF);
  return features;
}

const handPlacesOf = new WeakMap<Block['hand'], ReadonlySet<number>>();

/** The places of a block that have hand values. */
function handPlaces({ hand }: Block): ReadonlySet<number> {
  let places = handPlacesOf.get(hand);
  if (!places) {
    places = new Set(hand.map(({ at }) => at));
    handPlacesOf.set(hand, places);
  }
  return places;
}

/** The places of hand values, as offsets into what is shown, where shaping has joined the letters on both sides. */
function joinedPlaces(places: ReadonlySet<number>, glyphs: readonly ShapedGlyph[], part: Stretch, toWords: (at: number) => number): number[] {
  const starts = new Set(glyphs.map(({ cluster }) => cluster));
  const joined: number[] = [];
  for (let at = part.start + 1; at < part.end; at++) if (!starts.has(at) && places.has(toWords(at))) joined.push(at);
  return joined;
}

/** At most this many places are taken apart in one call: HarfBuzz as built takes some 4,000 features before it writes past its memory. */
const MOST_APART = 200;
/** Pieces of a longer stretch see this many code units of their neighbours, so that kerning reaches across. */
const OVERLAP = 32;

/**
 * Shapes a part once more, with the letter after each given place kept from joining the one before it; in overlapping pieces
 * where there are many.
 * @param joined, places inside ligatures of `glyphs`, ascending.
 */
function shapeApart(
  shape: (start: number, end: number, features: readonly FeatureRange[]) => ShapedGlyph[],
  glyphs: readonly ShapedGlyph[],
  part: Stretch,
  joined: readonly number[],
  features: readonly FeatureRange[],
): ShapedGlyph[] {
  const apart = (from: number, to: number): FeatureRange[] =>
    joined.filter((at) => at >= from && at < to).flatMap((at) => LIGATURE_FEATURES.map((tag) => ({ tag, value: 0, start: at, end: at + 1 })));
  if (joined.length <= MOST_APART) return shape(part.start, part.end, [...features, ...apart(part.start, part.end)]);
  const starts = glyphs.map(({ cluster }) => cluster).sort((a, b) => a - b);
  const cuts = [part.start];
  let s = 0;
  for (let i = MOST_APART; i < joined.length; i += MOST_APART) {
    const place = joined[i] ?? part.end;
    while ((starts[s + 1] ?? part.end) <= place) s++;
    cuts.push(starts[s] ?? place);
  }
  cuts.push(part.end);
  const pieces: ShapedGlyph[][] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [start = part.start, end = part.end] = [cuts[i], cuts[i + 1]];
    const [from, to] = [Math.max(part.start, start - OVERLAP), Math.min(part.end, end + OVERLAP)];
    pieces.push(shape(from, to, [...features, ...apart(from, to)]).filter(({ cluster }) => cluster >= start && cluster < end));
  }
  const [first, last] = [glyphs[0], glyphs[glyphs.length - 1]];
  return (first && last && first.cluster > last.cluster ? pieces.reverse() : pieces).flat();
}
