/**
 * Placing of marks for fonts without the GPOS feature `mark`: over, under or upon the ink of their letter, as HarfBuzz's own fallback
 * does, which the shaper as built leaves out.
 */
import type { ShapedGlyph } from './harfbuzz';
import type { Bounds } from './outline';

/** Where a mark goes. Canonical combining classes (Unicode, UAX #44) in four kinds. */
type MarkPlace = 'above' | 'below' | 'touching below' | 'upon';

/** Marks that don't stand above, as ranges of code points. */
const PLACES: readonly (readonly [MarkPlace, RegExp])[] = [
  ['touching below', /^[\u0321\u0322\u0327\u0328]$/],
  ['upon', /^[\u0334-\u0338\u05bc\u20d2\u20d3\u20d8-\u20da\u20e5\u20e6]$/],
  [
    'below',
    /^[\u0316-\u0319\u031c-\u0320\u0323-\u0326\u0329-\u0333\u0339-\u033c\u0347-\u0349\u034d\u034e\u0353-\u0356\u0359\u035a\u035c\u0591\u0596\u059a\u059b\u05a2-\u05a7\u05aa\u05b0-\u05b8\u05bb\u05bd\u05c7\u064d\u0650\u0655\u0656\u065c\u1dc2\u20e8]$/,
  ],
];

const markPlaceOf = (mark: string): MarkPlace => PLACES.find(([, pattern]) => pattern.test(mark))?.[0] ?? 'above';

/** Air between a mark and its letter, as a share of the em. */
const GAP = 1 / 16;

const MARK = /^\p{M}$/u;

/** The part of a font that marks need. */
export interface MarkFont {
  unitsPerEm: number;
  nominalGlyph(codePoint: number): number | undefined;
  inkBounds(glyphId: number): Bounds | undefined;
}

/**
 * The glyphs of a shaped text that are marks, with what they are.
 * @param glyphs in visual order; a letter and its marks are of one cluster.
 */
export function combiningMarksOf(glyphs: readonly ShapedGlyph[], text: string, font: MarkFont): Map<ShapedGlyph, string> {
  const marks = new Map<ShapedGlyph, string>();
  if (!/[^\u0020-\u007e]/.test(text)) return marks;
  const starts = [...new Set(glyphs.map(({ cluster }) => cluster))].sort((a, b) => a - b);
  const ends = new Map(starts.map((start, i) => [start, starts[i + 1] ?? text.length]));
  for (const glyph of glyphs) {
    const letters = Array.from(text.slice(glyph.cluster, ends.get(glyph.cluster)).normalize('NFD'));
    if (letters.length < 2 && !MARK.test(letters[0] ?? '')) continue;
    const own = letters.find((letter) => MARK.test(letter) && font.nominalGlyph(letter.codePointAt(0) ?? 0) === glyph.glyphId);
    if (own) marks.set(glyph, own);
  }
  return marks;
}

/** Places marks, in place. */
export function placeMarks(glyphs: readonly ShapedGlyph[], marks: ReadonlyMap<ShapedGlyph, string>, font: MarkFont): void {
  glyphs.forEach((base, b) => {
    if (marks.has(base)) return;
    const own: { glyph: ShapedGlyph; mark: string; before: number }[] = [];
    // Marks stand behind their letter, or before it where the letters run to the left. `before`: the pen's way from the base to the mark.
    for (const step of [1, -1]) {
      for (let i = b + step; glyphs[i]?.cluster === base.cluster; i += step) {
        const glyph = glyphs[i];
        const mark = glyph && marks.get(glyph);
        if (!glyph || mark === undefined) break;
        glyph.xAdvance = 0;
        own.push({ glyph, mark, before: step === 1 ? base.xAdvance : 0 });
      }
    }
    const ink = own.length > 0 ? font.inkBounds(base.glyphId) : undefined;
    if (!ink) return;
    stackMarks(ink, own, font);
  });
}

function stackMarks(base: Bounds, marks: readonly { glyph: ShapedGlyph; mark: string; before: number }[], font: MarkFont): void {
  const gap = GAP * font.unitsPerEm;
  let { yMax: top, yMin: bottom } = base;
  for (const { glyph, mark, before } of marks) {
    const ink = font.inkBounds(glyph.glyphId);
    if (!ink) continue;
    glyph.xOffset = (base.xMin + base.xMax) / 2 - (ink.xMin + ink.xMax) / 2 - before;
    const place = markPlaceOf(mark);
    if (place === 'above') {
      // A mark drawn for high letters is not lowered by all of what it is too high.
      const raised = top + gap - ink.yMin;
      glyph.yOffset = raised < 0 ? raised / 2 : raised;
      top = ink.yMax + glyph.yOffset;
    } else if (place === 'upon') {
      glyph.yOffset = (base.yMin + base.yMax) / 2 - (ink.yMin + ink.yMax) / 2;
    } else {
      const lowered = bottom - (place === 'below' ? gap : 0) - ink.yMax;
      glyph.yOffset = place === 'below' && lowered > 0 ? lowered / 2 : Math.min(0, lowered);
      bottom = ink.yMin + glyph.yOffset;
    }
    glyph.xOffset = Math.round(glyph.xOffset);
    glyph.yOffset = Math.round(glyph.yOffset);
  }
}
