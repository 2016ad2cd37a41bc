import * as fc from 'fast-check';
import { type Block, createBlock } from '../job';
import { shippedFaces } from '../testing';
import { type FaceSet, ragOf, setBlock, torn } from '.';
import type { LineWidths } from './break';
import { breakerFor } from './break-whole';
import { tornAt } from './sense';

const PROGRAMME =
  'The gates open at nine. Bring something warm to sit on, a lamp with a red glass, and nobody in a hurry. From ten until midnight the large telescope shows Saturn, its rings nearly edge-on this summer; queues are short after eleven.';

describe('breaking whole paragraphs', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('eb-garamond-regular')));

  const widths: LineWidths = { about: (from, to) => to - from, exactly: (from, to) => to - from, isSafe: () => true, slackPt: 0 };
  const by = { justify: { lettersMilliem: 0, width: 0, last: 'natural' as const }, language: null, ragged: true, sizePt: 10, given: undefined };
  const linesOf = (text: string, way: 'greedy' | 'even' | 'total', measure: number, shape: 'even' | 'widening' | 'narrowing' = 'even'): string[] =>
    breakerFor({ ...by, breaking: { way, shape } })(text, { start: 0, end: text.length }, widths, { first: measure, others: measure }).map(
      ({ start, visibleEnd }) => text.slice(start, visibleEnd),
    );
  const set = (words: string, change: Partial<Block>) => {
    const block = { ...createBlock('b', words, { xPt: 0, yPt: 0, widthPt: 150, heightPt: 10 }, { faceId: 'eb-garamond-regular', sizePt: 11 }), ...change };
    return { block, setting: setBlock(block, faces) };
  };

  /** All ways to set words in lines that fit. */
  function* ways(words: readonly string[], measure: number): Generator<string[]> {
    if (words.length === 0) yield [];
    for (let count = 1; count <= words.length; count++) {
      const line = words.slice(0, count).join(' ');
      if (line.length > measure && count > 1) return;
      for (const rest of ways(words.slice(count), measure)) yield [line, ...rest];
    }
  }

  it('breaks evenly as well as exhaustive search does, in no more lines than greedily', () => {
    // Words that lean on nothing: the measure is the squares of how far lines are off their mean alone.
    const texts = fc.array(
      fc.integer({ min: 1, max: 9 }).map((length) => 'x'.repeat(length)),
      { minLength: 1, maxLength: 9 },
    );
    fc.assert(
      fc.property(texts, fc.integer({ min: 9, max: 24 }), (words, measure) => {
        const text = words.join(' ');
        const greedy = linesOf(text, 'greedy', measure);
        const mean = greedy.reduce((sum, line) => sum + line.length, 0) / greedy.length;
        const cost = (lines: readonly string[]): number => lines.reduce((sum, line) => sum + (line.length - Math.min(measure, mean)) ** 2, 0);
        const even = linesOf(text, 'even', measure);
        expect(even.join(' ')).toBe(text);
        expect(even.length).toBe(greedy.length);
        const best = Math.min(...[...ways(words, measure)].filter((lines) => lines.length === greedy.length).map(cost));
        expect(cost(even)).toBeCloseTo(best, 6);
      }),
      { numRuns: 500 },
    );
  });

  it('widens or narrows where asked to, and does not leave a short word behind', () => {
    const text = 'aaaa bbbb cccc dddd eeee ffff gggg hhhh iiii';
    const lengths = (shape: 'widening' | 'narrowing'): number[] => linesOf(text, 'even', 26, shape).map(({ length }) => length);
    expect(lengths('widening')).toEqual([...lengths('widening')].sort((a, b) => a - b));
    expect(lengths('narrowing')).toEqual([...lengths('narrowing')].sort((a, b) => b - a));
    expect(linesOf('Falling stars of north', 'greedy', 16)).toEqual(['Falling stars of', 'north']);
    expect(linesOf('Wide stars in a north sky', 'even', 15)).toEqual(['Wide stars', 'in a north sky']);
    expect(torn('A.', 'Keeper', 'en')).toBe('initial parted from its name');
    expect(tornAt('one to two', 7, 'en')).toBe('short word left behind');
    expect(tornAt('at 12 km', 6, null)).toBe('figure parted from its unit');
    expect(tornAt('one two', 4, 'en')).toBeUndefined();
  });

  it('justified lines have their width exactly, the last its own or the full one', () => {
    for (const way of ['greedy', 'total'] as const) {
      for (const last of ['natural', 'full'] as const) {
        const { setting } = set(PROGRAMME, { align: 'justified', breaking: { way, shape: 'even' }, justify: { lettersMilliem: 20, width: 0.02, last } });
        setting.lines.forEach(({ widthPt }, i) => {
          if (i < setting.lines.length - 1 || last === 'full') expect(widthPt).toBeCloseTo(150, 6);
        });
        if (last === 'natural') expect(setting.lines.at(-1)?.widthPt).toBeLessThan(150);
      }
    }
  });

  it('total fit has less torn spaces than greedy breaking, and letters give way within their limits only', () => {
    const greedy = set(PROGRAMME, { align: 'justified' });
    const total = set(PROGRAMME, {
      align: 'justified',
      breaking: { way: 'total', shape: 'even' },
      justify: { lettersMilliem: 20, width: 0.02, last: 'natural' },
    });
    expect(ragOf(total.block, total.setting).widest).toBeLessThan(ragOf(greedy.block, greedy.setting).widest * 0.85);
    expect(ragOf(total.block, total.setting).narrowest).toBeGreaterThan(0.49);
    for (const { runs } of total.setting.lines) {
      for (const { style } of runs) expect(Math.abs(style.scaleX - 1)).toBeLessThanOrEqual(0.02 + 1e-9);
    }
  });

  it('keeps two words together that are tied, in every way of breaking', () => {
    for (const way of ['greedy', 'even', 'total'] as const) {
      for (let measure = 60; measure < 160; measure += 7) {
        const { block, setting } = set('Bring a lamp with red\u00a0glass and sit', {
          breaking: { way, shape: 'even' },
          frame: { xPt: 0, yPt: 0, widthPt: measure, heightPt: 10 },
        });
        for (const { end } of setting.lines.slice(0, -1)) expect(block.words.charAt(end - 1)).not.toBe('\u00a0');
      }
    }
  });

  it('breaks what nobody reads as display type as greedily as ever', () => {
    for (const way of ['even', 'total'] as const) {
      const words = 'ab '.repeat(2100).trim();
      const change = { breaking: { way, shape: 'even' as const } };
      expect(set(words, change).setting.lines.map(({ end }) => end)).toEqual(set(words, {}).setting.lines.map(({ end }) => end));
    }
  });

  it('answers for odd texts: nothing, one long word, blanks alone', () => {
    for (const way of ['greedy', 'even', 'total'] as const) {
      for (const words of ['', ' ', 'a'.repeat(400), 'b '.repeat(300)]) {
        const { setting } = set(words, { breaking: { way, shape: 'even' }, align: 'justified' });
        expect(setting.lines.at(-1)?.end).toBe(words.length);
      }
    }
  });
});
