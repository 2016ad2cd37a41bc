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
  const base = Math.max(paragraph.start, stretch.start - CONTEXT);
  const context = block.words.slice(base, Math.min(paragraph.end, stretch.end + CONTEXT));
  const levels = levelsOf(block.words, paragraph);
  const runs: ShapedRun[] = [];
  for (const range of styledRanges(block, stretch.start, stretch.end)) {
    const instance = faces.instance(range.style);
    for (const { start, end, style, shown, from } of showCase(block.words, range, instance)) {
      const features = featuresFor(style, kerning);
      const text = shown === undefined ? context : context.slice(0, start - base) + shown + context.slice(end - base);
      const length = shown === undefined ? end - start : shown.length;
      const toWords = (at: number): number => from?.[at + base - start] ?? (from && at + base - start >= from.length ? end : at + base);
      const levelAt = (at: number): number => levels?.[toWords(at) - paragraph.start] ?? 0;
      const parts = scriptRanges(text, start - base, start - base + length);
      for (const part of levels ? parts.flatMap((one) => levelRanges(one, levelAt)) : parts) {
        const level = levelAt(part.start);
        const runsTo = levels && (level % 2 === 1 ? 'left' : 'right');
        let glyphs = instance.shape(text, part.start, part.end, features, part.script, runsTo);
        const apart = block.hand.length > 0 ? takenApart(block, glyphs, part, toWords) : [];
        if (apart.length > 0) glyphs = instance.shape(text, part.start, part.end, [...features, ...apart], part.script, runsTo);
        if (base !== 0 || from) for (const glyph of glyphs) glyph.cluster = toWords(glyph.cluster);
        runs.push({ start: toWords(part.start), end: toWords(part.end), style, instance, level, glyphs });
      }
    }
  }
  return runs;
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

/** Features that keep the letter after each hand value from joining the one before it, where shaping has joined them. */
function takenApart(block: Block, glyphs: readonly ShapedGlyph[], part: Stretch, toWords: (at: number) => number): FeatureRange[] {
  const starts = new Set(glyphs.map(({ cluster }) => cluster));
  const features: FeatureRange[] = [];
  const places = new Set(block.hand.map(({ at }) => at));
  for (let at = part.start + 1; at < part.end; at++) {
    if (places.has(toWords(at)) && !starts.has(at)) for (const tag of LIGATURE_FEATURES) features.push({ tag, value: 0, start: at, end: at + 1 });
  }
  return features;
}
