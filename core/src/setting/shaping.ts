/** Words to shaped runs: the font's part of a setting, in font units, before anything is placed. */
import type { FaceInstance, FeatureRange, ShapedGlyph } from '../face';
import { type Block, type Style, styledRanges } from '../job';
import type { FaceSet } from './faces';
import { scriptRanges } from './scripts';

/** A stretch of words in one style and script, shaped. Offsets are into the block's words. */
export interface ShapedRun {
  start: number;
  end: number;
  style: Style;
  instance: FaceInstance;
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
 * Shapes part of one paragraph of a block.
 * @param paragraph first and last offset of the paragraph, which is the context letters are shaped in.
 * @param range what to shape, inside the paragraph.
 */
export function shapeRange(block: Block, paragraph: Stretch, range: Stretch, faces: FaceSet, kerning: KerningMode = 'as-styled'): ShapedRun[] {
  const base = Math.max(paragraph.start, range.start - CONTEXT);
  const context = block.words.slice(base, Math.min(paragraph.end, range.end + CONTEXT));
  const runs: ShapedRun[] = [];
  for (const { start, end, style } of styledRanges(block, range.start, range.end)) {
    const instance = faces.instance(style);
    const features = featuresFor(style, kerning);
    for (const part of scriptRanges(context, start - base, end - base)) {
      let glyphs = instance.shape(context, part.start, part.end, features, part.script);
      const apart = block.hand.length > 0 ? takenApart(block, glyphs, part, base) : [];
      if (apart.length > 0) glyphs = instance.shape(context, part.start, part.end, [...features, ...apart], part.script);
      if (base !== 0) for (const glyph of glyphs) glyph.cluster += base;
      runs.push({ start: part.start + base, end: part.end + base, style, instance, glyphs });
    }
  }
  return runs;
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
function takenApart(block: Block, glyphs: readonly ShapedGlyph[], part: Stretch, base: number): FeatureRange[] {
  const places = block.hand.filter(({ at }) => at - base > part.start && at - base < part.end);
  if (places.length === 0) return [];
  const starts = new Set(glyphs.map(({ cluster }) => cluster));
  return places
    .filter(({ at }) => !starts.has(at - base))
    .flatMap(({ at }) => LIGATURE_FEATURES.map((tag) => ({ tag, value: 0, start: at - base, end: at - base + 1 })));
}
