/**
 * Kerning from the tables that came before GPOS: `kern` (OpenType 1.9.1, and Apple's of version 1) and `kerx`. The shaper as built reads
 * neither. Subtables for text that runs upright, across the line, or along an axis are left out, as are state machines.
 */
import type { FeatureRange } from './features';
import type { ShapedGlyph } from './harfbuzz';

/** The kerning of two glyphs in font units; 0 where there is none. */
export type KernLookup = (left: number, right: number) => number;

/** Most pairs that are read of a subtable: a hostile font may claim any number. */
const MOST_PAIRS = 400_000;

interface Subtable {
  value: KernLookup;
  /** True where its value takes the place of what was found before it. */
  overrides: boolean;
}

/**
 * @param table gives a table's bytes, or undefined where the font has none.
 * @returns undefined where no table holds kerning that can be read.
 */
export function readKerning(table: (tag: string) => Uint8Array | undefined): KernLookup | undefined {
  const read = (tag: string, subtables: (view: DataView) => Subtable[]): Subtable[] => {
    const bytes = table(tag);
    if (!bytes || bytes.byteLength < 4) return [];
    try {
      return subtables(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    } catch (error) {
      // Cut short or nonsense: the font is set without.
      if (error instanceof RangeError) return [];
      throw error;
    }
  };
  const extended = read('kerx', kerxSubtables);
  const subtables = extended.length > 0 ? extended : read('kern', kernSubtables);
  if (subtables.length === 0) return undefined;
  return (left, right) => {
    let sum = 0;
    for (const { value, overrides } of subtables) {
      const own = value(left, right);
      if (own !== 0) sum = overrides ? own : sum + own;
    }
    return sum;
  };
}

const HORIZONTAL = 1 << 0;
const MINIMUM = 1 << 1;
const CROSS_STREAM = 1 << 2;
const OVERRIDE = 1 << 3;

function kernSubtables(view: DataView): Subtable[] {
  if (view.getUint16(0) !== 0) return appleSubtables(view);
  const found: Subtable[] = [];
  let at = 4;
  for (let i = 0, count = view.getUint16(2); i < count && at + 6 <= view.byteLength; i++) {
    const coverage = view.getUint16(at + 4);
    const format = coverage >> 8;
    if ((coverage & (HORIZONTAL | MINIMUM | CROSS_STREAM)) === HORIZONTAL) {
      const value = format === 0 ? kernPairs(view, at + 6, 2) : format === 2 ? classes(view, at, at + 6) : undefined;
      if (value) found.push({ value, overrides: (coverage & OVERRIDE) !== 0 });
    }
    const length = view.getUint16(at + 2);
    if (length < 6) break;
    at += length;
  }
  return found;
}

/** Upright, across the line, along an axis: the upper bits of Apple's coverage. */
const APPLE_OTHER = 0xe0;

function appleSubtables(view: DataView): Subtable[] {
  const found: Subtable[] = [];
  let at = 8;
  for (let i = 0, count = view.getUint32(4); i < count && at + 8 <= view.byteLength; i++) {
    const format = view.getUint8(at + 5);
    if ((view.getUint8(at + 4) & APPLE_OTHER) === 0) {
      const value = format === 0 ? kernPairs(view, at + 8, 2) : format === 2 ? classes(view, at, at + 8) : format === 3 ? indexed(view, at + 8) : undefined;
      if (value) found.push({ value, overrides: false });
    }
    const length = view.getUint32(at);
    if (length < 8) break;
    at += length;
  }
  return found;
}

function kerxSubtables(view: DataView): Subtable[] {
  const found: Subtable[] = [];
  let at = 8;
  for (let i = 0, count = view.getUint32(4); i < count && at + 12 <= view.byteLength; i++) {
    const coverage = view.getUint32(at + 4);
    // The lower byte is the format; with a tuple count values stand elsewhere.
    if (coverage >>> 29 === 0 && view.getUint32(at + 8) === 0) {
      const value = (coverage & 0xff) === 0 ? kernPairs(view, at + 12, 4) : (coverage & 0xff) === 2 ? extendedClasses(view, at) : undefined;
      if (value) found.push({ value, overrides: false });
    }
    const length = view.getUint32(at);
    if (length < 12) break;
    at += length;
  }
  return found;
}

/** Format 0: a list of pairs. @param size of the four numbers before them, in bytes. */
function kernPairs(view: DataView, at: number, size: 2 | 4): KernLookup {
  const count = Math.min(size === 2 ? view.getUint16(at) : view.getUint32(at), MOST_PAIRS, Math.floor((view.byteLength - at - 4 * size) / 6));
  const values = new Map<number, number>();
  for (let i = 0; i < count; i++) {
    const pair = at + 4 * size + i * 6;
    values.set(view.getUint32(pair), view.getInt16(pair + 4));
  }
  return (left, right) => values.get(left * 65_536 + right) ?? 0;
}

/** Format 2: glyphs in classes, which are offsets into an array already. @param start of the subtable; @param at its own header. */
function classes(view: DataView, start: number, at: number): KernLookup {
  const rowWidth = view.getUint16(at);
  const [left, right] = [2, 4].map((offset) => classOffsets(view, start + view.getUint16(at + offset)));
  const array = view.getUint16(at + 6);
  if (!left || !right || rowWidth === 0) return () => 0;
  return (one, other) => {
    const row = left(one);
    // Offsets of the left begin with the array's; glyphs without a class are in class 0.
    return valueAt(view, start + (row ?? array) + (right(other) ?? 0));
  };
}

function classOffsets(view: DataView, at: number): (glyphId: number) => number | undefined {
  const first = view.getUint16(at);
  const count = view.getUint16(at + 2);
  return (glyphId) => {
    const place = at + 4 + (glyphId - first) * 2;
    return glyphId < first || glyphId >= first + count || place + 2 > view.byteLength ? undefined : view.getUint16(place);
  };
}

const valueAt = (view: DataView, at: number): number => (at >= 0 && at + 2 <= view.byteLength ? view.getInt16(at) : 0);

/** Format 3 of Apple's `kern`: classes and values by index. */
function indexed(view: DataView, at: number): KernLookup {
  const glyphs = view.getUint16(at);
  const [values, lefts, rights] = [view.getUint8(at + 2), view.getUint8(at + 3), view.getUint8(at + 4)];
  const left = at + 6 + values * 2;
  const right = left + glyphs;
  const index = right + glyphs;
  if (index + lefts * rights > view.byteLength) return () => 0;
  return (one, other) => {
    if (one >= glyphs || other >= glyphs) return 0;
    const [row, column] = [view.getUint8(left + one), view.getUint8(right + other)];
    const value = row < lefts && column < rights ? view.getUint8(index + row * rights + column) : values;
    return value < values ? view.getInt16(at + 6 + value * 2) : 0;
  };
}

/** Format 2 of `kerx`: classes are looked up, and are offsets into the array. */
function extendedClasses(view: DataView, start: number): KernLookup | undefined {
  const [left, right] = [16, 20].map((offset) => appleLookup(view, start + view.getUint32(start + offset)));
  const array = start + view.getUint32(start + 24);
  if (!left || !right) return undefined;
  return (one, other) => valueAt(view, array + ((left(one) ?? 0) + (right(other) ?? 0)) * 2);
}

/** A lookup table of Apple's (formats 0, 2, 6 and 8). */
function appleLookup(view: DataView, at: number): ((glyphId: number) => number | undefined) | undefined {
  const format = view.getUint16(at);
  const inside = (place: number): number | undefined => (place + 2 <= view.byteLength ? view.getUint16(place) : undefined);
  if (format === 0) return (glyphId) => inside(at + 2 + glyphId * 2);
  if (format === 8) {
    const [first, count] = [view.getUint16(at + 2), view.getUint16(at + 4)];
    return (glyphId) => (glyphId >= first && glyphId < first + count ? inside(at + 6 + (glyphId - first) * 2) : undefined);
  }
  if (format !== 2 && format !== 6) return undefined;
  const [size, count] = [view.getUint16(at + 2), Math.min(view.getUint16(at + 4), 65_536)];
  const values = new Map<number, number>();
  for (let i = 0; i < count; i++) {
    const unit = at + 12 + i * size;
    if (unit + (format === 2 ? 6 : 4) > view.byteLength) break;
    const last = view.getUint16(unit);
    const first = format === 2 ? view.getUint16(unit + 2) : last;
    for (let glyphId = first; glyphId <= last; glyphId++) values.set(glyphId, view.getUint16(unit + (format === 2 ? 4 : 2)));
  }
  return (glyphId) => values.get(glyphId);
}

/**
 * Kerns shaped glyphs, in place, where the feature `kern` is not switched off. Marks are passed over.
 * @param glyphs in visual order. @param isMark tells marks, which keep their place over their letter.
 */
export function applyKerning(glyphs: ShapedGlyph[], kerning: KernLookup, features: readonly FeatureRange[], isMark: (glyph: ShapedGlyph) => boolean): void {
  const switched = features.filter(({ tag }) => tag === 'kern');
  const isOn = (at: number): boolean => {
    let on = true;
    for (const { value, start = 0, end = Number.POSITIVE_INFINITY } of switched) if (at >= start && at < end) on = value !== 0;
    return on;
  };
  let left: ShapedGlyph | undefined;
  for (const glyph of glyphs) {
    if (isMark(glyph)) continue;
    const value = left ? kerning(left.glyphId, glyph.glyphId) : 0;
    // The feature belongs to the first of two letters in the words.
    if (left && value !== 0 && isOn(Math.min(left.cluster, glyph.cluster))) {
      left.xAdvance += value;
      (left.cluster > glyph.cluster ? left : glyph).unsafeToBreak = true;
    }
    left = glyph;
  }
}
