/** Space stage, its beginning: shaped items seen as runs of one style, since what stands between letters depends on style. */
import type { FaceInstance, ShapedGlyph } from '../face';
import type { Style, WordRange } from '../job';
import type { Span } from './itemise';
import type { ShapedItem } from './shape';

/** The letters of a shaped item in one style. */
export interface StyledRun extends WordRange {
  readonly style: Style;
  readonly instance: FaceInstance;
  /** Embedding level (UAX #9): odd where the letters run to the left. */
  readonly level: number;
  /** In visual order; `cluster` counts from the beginning of the block's words. */
  readonly glyphs: readonly ShapedGlyph[];
  /** The item these letters were shaped in: neighbours of one item know each other's kerning. */
  readonly item: ShapedItem;
}

/** Items cut where the style changes, in the order of the words. */
export function runsOf(items: readonly ShapedItem[]): StyledRun[] {
  const runs: StyledRun[] = [];
  for (const item of items) {
    const { start, end, instance, level, glyphs, spans } = item;
    const only = spans[0];
    if (spans.length === 1 && only) {
      runs.push({ start, end, style: only.style, instance, level, glyphs, item });
      continue;
    }
    // Glyphs of one style stand together, whichever way the letters run.
    const bySpan = new Map<Span, ShapedGlyph[]>();
    const backwards = (glyphs[0]?.cluster ?? 0) > (glyphs[glyphs.length - 1]?.cluster ?? 0);
    let s = backwards ? spans.length - 1 : 0;
    for (const glyph of glyphs) {
      while (s > 0 && glyph.cluster < (spans[s]?.start ?? 0)) s--;
      while (s < spans.length - 1 && glyph.cluster >= (spans[s]?.end ?? 0)) s++;
      const span = spans[s];
      if (!span) continue;
      const own = bySpan.get(span);
      if (own) own.push(glyph);
      else bySpan.set(span, [glyph]);
    }
    for (const span of spans) {
      const own = bySpan.get(span);
      if (own) runs.push({ start: Math.max(start, span.start), end: Math.min(end, span.end), style: span.style, instance, level, glyphs: own, item });
    }
  }
  return runs;
}
