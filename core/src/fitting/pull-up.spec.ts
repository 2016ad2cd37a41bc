import * as fc from 'fast-check';
import { type Breakable, type RoomsPt, leastRoom, leastTightening, tighteningOf } from './pull-up';

/** A text of words of so many points, a word space of 3 between them, one gap a point for simplicity. */
function textOf(words: readonly number[]): Breakable {
  return {
    places: Array.from({ length: words.length + 1 }, (_, i) => i),
    line: (from, to) => {
      const letters = words.slice(from, to).reduce((sum, width) => sum + width, 0);
      const widthPt = letters + 3 * (to - from - 1);
      return { widthPt, perLetterPt: (letters - 1) / 100 };
    },
  };
}

/** All ways to cut so many words into so many lines. */
function* cuts(words: number, lines: number, from = 0): Generator<number[]> {
  if (lines === 1) {
    if (words > from) yield [words];
    return;
  }
  for (let to = from + 1; to <= words - (lines - 1); to++) for (const rest of cuts(words, lines - 1, to)) yield [to, ...rest];
}

const room = (rooms: RoomsPt, line: number): number => (line === 0 ? rooms.first : rooms.others);

describe('fewer lines', () => {
  const texts = fc.record({
    words: fc.array(fc.integer({ min: 2, max: 30 }), { minLength: 2, maxLength: 9 }),
    others: fc.integer({ min: 25, max: 70 }),
    indent: fc.integer({ min: 0, max: 10 }),
    count: fc.integer({ min: 1, max: 4 }),
    most: fc.integer({ min: 5, max: 60 }),
  });

  it('touches as few lines, and tightens as little, as exhaustive search over breaks and tightened lines finds', () => {
    let [found, none] = [0, 0];
    fc.assert(
      fc.property(texts, ({ words, others, indent, count, most }) => {
        const text = textOf(words);
        const rooms = { first: others - indent, others };
        let best: { touched: number; sum: number } | undefined;
        for (const ends of cuts(words.length, count)) {
          const needs = ends.map((to, line) => tighteningOf(text.line(line === 0 ? 0 : (ends[line - 1] ?? 0), to), room(rooms, line)));
          if (needs.some((need) => need > most)) continue;
          const one = { touched: needs.filter((need) => need > 0).length, sum: needs.reduce((sum, need) => sum + need, 0) };
          if (!best || one.touched < best.touched || (one.touched === best.touched && one.sum < best.sum)) best = one;
        }
        const lines = leastTightening(text, rooms, count, most);
        expect(lines === undefined).toBe(best === undefined);
        if (!lines || !best) {
          none++;
          return;
        }
        found++;
        expect(lines.length).toBe(count);
        lines.forEach(({ from, to, milliem }, line) => {
          expect(from).toBe(line === 0 ? 0 : (lines[line - 1]?.to ?? 0));
          const { widthPt, perLetterPt } = text.line(from, to);
          expect(widthPt + perLetterPt * milliem).toBeLessThanOrEqual(room(rooms, line) + 1e-6);
          expect(-milliem).toBeLessThanOrEqual(most);
        });
        expect(lines[lines.length - 1]?.to).toBe(words.length);
        expect(lines.filter(({ milliem }) => milliem < 0).length).toBe(best.touched);
        expect(lines.reduce((sum, { milliem }) => sum - milliem, 0)).toBeCloseTo(best.sum, 6);
      }),
      { numRuns: 3000 },
    );
    expect(found).toBeGreaterThan(400);
    expect(none).toBeGreaterThan(400);
  });

  it('finds the least room for so many lines', () => {
    fc.assert(
      fc.property(texts, ({ words, indent, count }) => {
        const text = textOf(words);
        let best = Number.POSITIVE_INFINITY;
        for (const ends of cuts(words.length, count)) {
          const widths = ends.map((to, line) => text.line(line === 0 ? 0 : (ends[line - 1] ?? 0), to).widthPt + (line === 0 ? indent : 0));
          best = Math.min(best, Math.max(...widths));
        }
        expect(leastRoom(text, indent, count)).toBe(best);
      }),
      { numRuns: 1000 },
    );
  });

  it('reckons in tenths, upwards, and takes a hair for nothing', () => {
    const line = (widthPt: number, perLetterPt = 2) => ({ widthPt, perLetterPt });
    expect(tighteningOf(line(99), 100)).toBe(0);
    expect(tighteningOf(line(100 + 1e-7), 100)).toBe(0);
    expect(tighteningOf(line(124), 100)).toBe(12);
    expect(tighteningOf(line(124.01), 100)).toBe(12.1);
    expect(tighteningOf(line(124, 0), 100)).toBe(Number.POSITIVE_INFINITY);
    expect(tighteningOf(line(100, 0), 100)).toBe(0);
  });

  it('finds none where there are no lines, or fewer words than lines', () => {
    const text = textOf([10, 10, 10]);
    const rooms = { first: 500, others: 500 };
    for (const count of [-1, 0, 4]) expect(leastTightening(text, rooms, count, 50)).toBeUndefined();
    expect(leastTightening(text, rooms, 3, 50)?.map(({ from, to, milliem }) => [from, to, milliem])).toEqual([
      [0, 1, 0],
      [1, 2, 0],
      [2, 3, 0],
    ]);
    expect(leastRoom(text, 0, 4)).toBe(Number.POSITIVE_INFINITY);
  });

  it('takes of equal ways the one whose first lines are fuller', () => {
    const ends = (words: readonly number[], count: number) => leastTightening(textOf(words), { first: 50, others: 50 }, count, 50)?.map(({ to }) => to);
    expect(ends([10, 10, 10, 10], 2)).toEqual([3, 4]);
    expect(ends([10, 10, 10, 10, 10, 10], 3)).toEqual([4, 5, 6]);
  });

  it('tightens a line far beyond its room where that is allowed', () => {
    // 200 pt in 40: by 160 pt, of which 1/1000 em takes 1.99.
    const [line] = leastTightening(textOf([200]), { first: 40, others: 40 }, 1, 90) ?? [];
    expect(line).toEqual({ from: 0, to: 1, milliem: -80.5 });
    expect(leastTightening(textOf([200]), { first: 40, others: 40 }, 1, 80)).toBeUndefined();
  });
});
