import fc from 'fast-check';
import { LEVER_NAMES, type LeverName, type Levers } from '../job';
import { AT_REST, type LeverValues, type LineToFit, alone, solveLevers, widthWith } from './levers';

/** A line of 200 pt, of which 1/1000 em of letter space adds 0.5 and of word space 0.1. */
const line: LineToFit = { widthPt: 200, perLetterPt: 0.5, perWordPt: 0.1 };
const WIDE: Levers = {
  size: { share: 0, least: 0.5, most: 2 },
  letters: { share: 0, least: -100, most: 300 },
  words: { share: 0, least: -200, most: 900 },
  width: { share: 0, least: 0.8, most: 1.25 },
};
const levers = (change: Partial<Record<LeverName, Partial<Levers[LeverName]>>>): Levers =>
  Object.fromEntries(LEVER_NAMES.map((name) => [name, { ...WIDE[name], ...change[name] }])) as unknown as Levers;

describe('levers', () => {
  it('make a line wider by their factors, and by what spaces add before them', () => {
    expect(AT_REST).toEqual({ size: 1, letters: 0, words: 0, width: 1 });
    expect(widthWith(line, AT_REST)).toBe(200);
    expect(widthWith(line, { size: 2, letters: 10, words: 20, width: 1.5 })).toBeCloseTo(2 * 1.5 * (200 + 5 + 2), 9);
  });

  it('say what each would take alone, and which limit that breaks', () => {
    expect(alone(line, 220, WIDE)).toEqual({
      size: { value: 1.1, beyond: undefined },
      letters: { value: 40, beyond: undefined },
      words: { value: 200, beyond: undefined },
      width: { value: 1.1, beyond: undefined },
    });
    const { size, letters, words, width } = alone(line, 80, WIDE);
    expect([size?.beyond, letters?.beyond, words?.beyond, width?.beyond]).toEqual(['least', 'least', 'least', 'least']);
    expect(alone(line, 440, WIDE).size).toEqual({ value: 2.2, beyond: 'most' });
    // A limit itself is kept, in the rounding of sums too.
    expect(alone(line, 350, WIDE).letters).toEqual({ value: 300, beyond: undefined });
    expect(alone(line, 150, WIDE).letters).toEqual({ value: -100, beyond: undefined });
    expect(alone(line, 200 * (1.25 + 1e-12), WIDE).width?.beyond).toBeUndefined();
    expect(alone(line, 200 * (0.8 - 1e-12), WIDE).width?.beyond).toBeUndefined();
  });

  it('are none where a line has nothing that they change', () => {
    const bare = alone({ widthPt: 0, perLetterPt: 0, perWordPt: 0 }, 100, WIDE);
    expect(bare).toEqual({ size: undefined, letters: undefined, words: undefined, width: undefined });
    const one = alone({ widthPt: 50, perLetterPt: 0, perWordPt: 0 }, 100, WIDE);
    expect([one.size?.value, one.letters, one.words, one.width?.value]).toEqual([2, undefined, undefined, 2]);
  });

  it('reach a width by one of them exactly, wider and narrower', () => {
    for (const [name, target] of [
      ['size', 260],
      ['size', 150],
      ['letters', 300],
      ['letters', 160],
      ['words', 230],
      ['words', 190],
      ['width', 230],
      ['width', 170],
    ] as const) {
      const { values, missingPt } = solveLevers(line, target, levers({ [name]: { share: 1 } }));
      expect(missingPt).withContext(`${name} ${target}`).toBe(0);
      expect(widthWith(line, values)).withContext(`${name} ${target}`).toBeCloseTo(target, 9);
      for (const other of LEVER_NAMES) if (other !== name) expect(values[other]).toBe(AT_REST[other]);
      expect(values[name]).toBeCloseTo(alone(line, target, WIDE)[name]!.value, 9);
    }
  });

  it('stop at their limits, and say what is missing', () => {
    const wider = solveLevers(line, 500, levers({ letters: { share: 1 } }));
    expect([wider.values.letters, wider.missingPt]).toEqual([300, 150]);
    const narrower = solveLevers(line, 100, levers({ letters: { share: 1 } }));
    expect([narrower.values.letters, narrower.missingPt]).toEqual([-100, -50]);
  });

  it('leave alone what has no share, and lines where none has one', () => {
    expect(solveLevers(line, 300, WIDE)).toEqual({ values: AT_REST, missingPt: 100 });
    expect(solveLevers(line, 300, levers({ size: { share: 0.0009 } }))).toEqual({ values: AT_REST, missingPt: 100 });
    expect(solveLevers(line, 200, levers({ size: { share: 1 } }))).toEqual({ values: AT_REST, missingPt: 0 });
    expect(solveLevers(line, 300, levers({ size: { share: 0.001 } })).values.size).toBeCloseTo(1.5, 9);
  });

  it('begin at a limit that forbids to rest', () => {
    // Letters may be tightened by 20 to 60, and the line wants to be wider.
    const { values, missingPt } = solveLevers(line, 220, levers({ letters: { share: 1, least: -60, most: -20 } }));
    expect([values.letters, missingPt]).toEqual([0, 20]);
    expect(solveLevers(line, 190, levers({ letters: { share: 1, least: 20, most: 60 } })).values.letters).toBe(0);
  });

  it('go as their shares say until one is at its limit, which the others make up for', () => {
    const both = levers({ letters: { share: 1 }, words: { share: 1 } });
    // Of 40 pt each takes half of what it would alone: 40/1000 and 200/1000 em.
    const even = solveLevers(line, 240, both);
    expect([even.values.letters, even.values.words]).toEqual([jasmine.any(Number), jasmine.any(Number)]);
    expect(even.values.letters).toBeCloseTo(40, 6);
    expect(even.values.words).toBeCloseTo(200, 6);
    const held = solveLevers(line, 240, levers({ letters: { share: 1 }, words: { share: 1, most: 100 } }));
    expect(held.values.words).toBe(100);
    expect(held.values.letters).toBeCloseTo(60, 6);
    const shares = solveLevers(line, 240, levers({ letters: { share: 3 }, words: { share: 1 } }));
    expect(shares.values.letters).toBeCloseTo(60, 6);
    expect(shares.values.words).toBeCloseTo(100, 6);
  });

  it('reach any width between all limits, and never break one', () => {
    const lever = (least: number, most: number) =>
      fc.record({
        share: fc.constantFrom(0, 0.3, 1),
        least: fc.double({ min: least, max: 0, noNaN: true }),
        most: fc.double({ min: 0, max: most, noNaN: true }),
      });
    const factor = fc.record({
      share: fc.constantFrom(0, 0.3, 1),
      least: fc.double({ min: 0.5, max: 1, noNaN: true }),
      most: fc.double({ min: 1, max: 1.8, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.record({ size: factor, letters: lever(-80, 200), words: lever(-150, 500), width: factor }),
        fc.double({ min: 60, max: 700, noNaN: true }),
        (some, target) => {
          const { values, missingPt } = solveLevers(line, target, some);
          for (const name of LEVER_NAMES) {
            expect(values[name]).toBeGreaterThanOrEqual(Math.min(AT_REST[name], some[name].least));
            expect(values[name]).toBeLessThanOrEqual(Math.max(AT_REST[name], some[name].most));
          }
          expect(widthWith(line, values) + missingPt).toBeCloseTo(target, 6);
          if (Math.abs(missingPt) < 1e-9) return;
          // What could still go on, would have.
          const end = (name: LeverName): number => (some[name].share < 0.001 ? AT_REST[name] : target > 200 ? some[name].most : some[name].least);
          const ends = Object.fromEntries(LEVER_NAMES.map((name) => [name, end(name)])) as LeverValues;
          for (const name of LEVER_NAMES) expect(values[name]).toBeCloseTo(ends[name], 9);
        },
      ),
      { numRuns: 400 },
    );
  });
});
