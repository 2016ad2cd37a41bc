/** Fewer lines: the least that has to be tightened, or the least room, for a paragraph to take so many. */

/** A paragraph as it can be broken: the lines between places, by index. */
export interface Breakable {
  places: readonly number[];
  line(from: number, to: number): { widthPt: number; perLetterPt: number };
}

/** A line that is tightened, by index of its places. */
export interface TightLine {
  from: number;
  to: number;
  /** 1/1000 em, negative; 0 for a line that stays as it is. */
  milliem: number;
}

export interface RoomsPt {
  first: number;
  others: number;
}

/** Tightening is reckoned in tenths of 1/1000 em. */
const TENTH = 10;
/** Sums of widths are off by less, in points. */
const HAIR = 1e-6;

/** The tightening a line needs to fit, in 1/1000 em, 0 where it fits; infinite where nothing can. */
export function tighteningOf({ widthPt, perLetterPt }: { widthPt: number; perLetterPt: number }, roomPt: number): number {
  const over = widthPt - roomPt - HAIR;
  if (over <= 0) return 0;
  return perLetterPt > 0 ? Math.ceil((over / perLetterPt) * TENTH) / TENTH : Number.POSITIVE_INFINITY;
}

/** One way to break, weighed: few lines touched first, then little tightening in all. */
interface Weighed {
  touched: number;
  sum: number;
  from: number;
}

const isBetter = (a: Weighed, b: Weighed | undefined): boolean => !b || a.touched < b.touched || (a.touched === b.touched && a.sum < b.sum - 1e-9);

/**
 * The lines of a paragraph in so many lines, as few of them tightened as can be, and those by as little in all as can be: dynamic
 * programming, exact in that measure. Of equal ways, the one whose lines are fuller from the beginning.
 * @param most how far a line may be tightened, 1/1000 em, positive. @returns undefined where there is no way.
 */
export function leastTightening(paragraph: Breakable, rooms: RoomsPt, count: number, most: number): TightLine[] | undefined {
  const last = paragraph.places.length - 1;
  if (count < 1 || last < count) return undefined;
  /** The best ways to end so many lines at a place. */
  const ways: (Weighed | undefined)[][] = [[{ touched: 0, sum: 0, from: 0 }]];
  for (let line = 1; line <= count; line++) {
    const before = ways[line - 1] ?? [];
    const row: (Weighed | undefined)[] = [];
    const room = line === 1 ? rooms.first : rooms.others;
    for (let to = line; to <= last - (count - line); to++) {
      if (line === count && to < last) continue;
      for (let from = to - 1; from >= line - 1; from--) {
        const asked = paragraph.line(from, to);
        const milliem = tighteningOf(asked, room);
        // Lines only grow from here on.
        if (milliem > most) {
          if (asked.widthPt - asked.perLetterPt * most > room * 1.5) break;
          continue;
        }
        const way = before[from];
        if (!way) continue;
        const weighed = { touched: way.touched + (milliem > 0 ? 1 : 0), sum: way.sum + milliem, from };
        if (isBetter(weighed, row[to])) row[to] = weighed;
      }
    }
    ways.push(row);
  }
  if (!ways[count]?.[last]) return undefined;
  const lines: TightLine[] = [];
  for (let line = count, to = last; line > 0; line--) {
    const way = ways[line]?.[to];
    if (!way) return undefined;
    const milliem = tighteningOf(paragraph.line(way.from, to), line === 1 ? rooms.first : rooms.others);
    lines.unshift({ from: way.from, to, milliem: milliem === 0 ? 0 : -milliem });
    to = way.from;
  }
  return lines;
}

/** The least room in which a paragraph takes so many lines, in points; the first line has so much less. */
export function leastRoom(paragraph: Breakable, indentPt: number, count: number): number {
  const last = paragraph.places.length - 1;
  let row: number[] = [Number.NEGATIVE_INFINITY];
  for (let line = 1; line <= count; line++) {
    const next: number[] = [];
    for (let to = line; to <= last; to++) {
      for (let from = to - 1; from >= line - 1; from--) {
        const widest = Math.max(row[from] ?? Number.POSITIVE_INFINITY, paragraph.line(from, to).widthPt + (line === 1 ? indentPt : 0));
        if (widest < (next[to] ?? Number.POSITIVE_INFINITY)) next[to] = widest;
        if (paragraph.line(from, to).widthPt > (next[to] ?? Number.POSITIVE_INFINITY)) break;
      }
    }
    row = next;
  }
  return row[last] ?? Number.POSITIVE_INFINITY;
}
