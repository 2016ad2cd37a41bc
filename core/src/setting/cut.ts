/** Break stage: the letters of one line, out of those of its paragraph. */
import type { ShapedGlyph } from '../face';
import type { WordRange } from '../job';
import { firstIndex } from '../base';
import type { Surroundings } from './itemise';
import { type ShapedItem, shapeItems } from './shape';

/**
 * Part of shaped items. Where the font says that a cut is not safe, the letters from there to the nearest safe place are
 * shaped anew (the use HarfBuzz's unsafe-to-break flag is made for); the rest is taken as it is.
 */
export function cutItems(surroundings: Surroundings, items: readonly ShapedItem[], range: WordRange): ShapedItem[] {
  const out: ShapedItem[] = [];
  for (let i = firstIndex(items.length, (at) => (items[at]?.end ?? 0) > range.start); i < items.length; i++) {
    const item = items[i];
    if (!item || item.start >= range.end) break;
    const start = Math.max(item.start, range.start);
    const end = Math.min(item.end, range.end);
    if (start === item.start && end === item.end) out.push(item);
    else if (isBackwards(item)) out.push(...shapeItems(surroundings, { start, end }));
    else out.push(cutItem(surroundings, item, { start, end }));
  }
  return out;
}

function cutItem(surroundings: Surroundings, item: ShapedItem, { start, end }: WordRange): ShapedItem {
  const { glyphs } = item;
  const from = firstAt(glyphs, start);
  const past = firstAt(glyphs, end);
  let safeFrom = from;
  if (start > item.start) while (safeFrom < past && glyphs[safeFrom]?.unsafeToBreak) safeFrom++;
  let safePast = past;
  if (end < item.end) while (safePast > safeFrom && glyphs[safePast]?.unsafeToBreak) safePast--;
  const anew = (first: number, last: number): ShapedGlyph[] =>
    last <= first ? [] : shapeItems(surroundings, { start: first, end: last }).flatMap((one) => one.glyphs);
  const middle = glyphs.slice(safeFrom, safePast);
  const head = anew(start, Math.min(end, glyphs[safeFrom]?.cluster ?? end));
  const tail = safePast < past ? anew(glyphs[safePast]?.cluster ?? end, end) : [];
  return { ...item, start, end, glyphs: head.length + tail.length > 0 ? [...head, ...middle, ...tail] : middle };
}

/** Index of the first glyph whose cluster is not before an offset; clusters ascend. */
export const firstAt = (glyphs: readonly ShapedGlyph[], offset: number): number => firstIndex(glyphs.length, (i) => (glyphs[i]?.cluster ?? 0) >= offset);

function isBackwards({ glyphs }: ShapedItem): boolean {
  const first = glyphs[0];
  const last = glyphs[glyphs.length - 1];
  return first !== undefined && last !== undefined && first.cluster > last.cluster;
}
