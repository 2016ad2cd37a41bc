import * as fc from 'fast-check';
import { type Block, createBlock } from '../job';
import { shippedFaces } from '../testing';
import { type FaceSet, ragOf, setBlock, tornApart } from '.';
import { type LineWidths, opportunitiesOf } from './break';
import { breakerFor } from './break-whole';
import { EASY_CLOSE, EASY_OPEN } from './fit';
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

  it('total fit has the least demerits that there are, hyphens, torn pairs and short last lines counted as they are stated', () => {
    const SHY = '\u00ad';
    /** Demerits of a line after Knuth and Plass (1981), with the penalties of docs/spacing.md. */
    const demerits = (text: string, measure: number, from: number, to: number, above: boolean): number => {
      const isLast = to === text.length;
      const shown = text.slice(from, to).trimEnd();
      const hyphen = !isLast && text.charAt(to - 1) === SHY;
      const spaces = [...shown].filter((letter) => letter === ' ').length;
      const off = measure - shown.length;
      if (isLast && off >= 0) return shown.length < 0.15 * measure && from > 0 && spaces === 0 ? 101 ** 2 : 1;
      // Words stand out of a frame only where they can't be parted.
      if (off < -EASY_CLOSE * spaces && opportunitiesOf(text).some((at) => at > from && at < to)) return Number.POSITIVE_INFINITY;
      if (off < -EASY_CLOSE * spaces || (spaces === 0 && off > 0)) return 1e7 * (1 + Math.abs(off) / measure);
      const ratio = off === 0 ? 0 : Math.abs(off) / ((off < 0 ? EASY_CLOSE : EASY_OPEN) * spaces);
      const penalty = (hyphen ? 50 : 0) + (!isLast && tornAt(text, to, 'en') !== undefined ? 30 : 0);
      return (1 + 100 * ratio ** 3 + penalty) ** 2 + (hyphen && above ? 3000 : 0);
    };
    const sum = (text: string, measure: number, ends: readonly number[]): number =>
      ends.reduce((all, to, i) => {
        const from = ends[i - 1] ?? 0;
        return all + demerits(text, measure, from, to, from > 0 && text.charAt(from - 1) === SHY);
      }, 0);
    /** All ways to end lines at places of a text, the last at its end. */
    function* choices(places: readonly number[]): Generator<number[]> {
      const [last, ...before] = [...places].reverse();
      for (let mask = 0; mask < 2 ** before.length; mask++) yield [...before.filter((_, i) => mask & (1 << i)).reverse(), last ?? 0];
    }
    const letters = (most: number) => fc.integer({ min: 1, max: most }).map((length) => 'x'.repeat(length));
    const divided = fc.tuple(fc.integer({ min: 2, max: 4 }), fc.integer({ min: 2, max: 4 })).map(([a, b]) => 'x'.repeat(a) + SHY + 'x'.repeat(b));
    const leaning = fc.constantFrom('a', 'the', 'of');
    const breaker = breakerFor({ ...by, language: 'en', ragged: false, breaking: { way: 'total', shape: 'even' } });
    const hasLeast = (measure: number, words: readonly string[]): void => {
      const text = words.join(' ').replaceAll('-', SHY);
      const found = breaker(text, { start: 0, end: text.length }, widths, { first: measure, others: measure }).map(({ end }) => end);
      const least = [...choices(opportunitiesOf(text))].reduce((best, ends) => Math.min(best, sum(text, measure, ends)), Number.POSITIVE_INFINITY);
      expect(sum(text, measure, found)).toBeLessThanOrEqual(least * (1 + 1e-9));
    };
    for (const [measure, most, word] of [
      [14, 8, fc.oneof({ weight: 3, arbitrary: letters(8) }, { weight: 4, arbitrary: leaning }, { weight: 2, arbitrary: divided })],
      [9, 7, fc.oneof({ weight: 3, arbitrary: letters(3) }, { weight: 4, arbitrary: divided })],
      [20, 9, letters(4)],
    ] as const) {
      fc.assert(
        fc.property(fc.array(word, { minLength: 5, maxLength: most }), (words) => hasLeast(measure, words)),
        { numRuns: 150 },
      );
    }
    // Each of the penalties decides one of these.
    hasLeast(14, ['xx-xx', 'xxx-xxx', 'xx', 'xxxx-xx', 'xxx-xxxx', 'xx', 'the']);
    hasLeast(9, ['xx-xxx', 'a', 'xxxxxx', 'xxxxxx', 'xxx-xxx']);
    hasLeast(14, ['xxx-xxx', 'xxxx-xxx', 'xxxx-xxx', 'xx-xxxx', 'the']);
  });

  it('widens or narrows where asked to, and does not leave a short word behind', () => {
    const text = 'aaaa bbbb cccc dddd eeee ffff gggg hhhh iiii';
    const lengths = (shape: 'widening' | 'narrowing'): number[] => linesOf(text, 'even', 26, shape).map(({ length }) => length);
    expect(lengths('widening')).toEqual([...lengths('widening')].sort((a, b) => a - b));
    expect(lengths('narrowing')).toEqual([...lengths('narrowing')].sort((a, b) => b - a));
    expect(linesOf('Falling stars of north', 'greedy', 16)).toEqual(['Falling stars of', 'north']);
    expect(linesOf('Wide stars in a north sky', 'even', 15)).toEqual(['Wide stars', 'in a north sky']);
    expect(tornApart('A.', 'Keeper', 'en')).toBe('initial separated from its name');
    expect(tornAt('one to two', 7, 'en')).toBe('short word at the line end');
    expect(tornAt('at 12 km', 6, null)).toBe('figure separated from its unit');
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
