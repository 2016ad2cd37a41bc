import fc from 'fast-check';
import { Rules } from '@cto.af/linebreak';
import { type Block, PLAIN_JUSTIFY, type Style } from '../job';
import { headline, shippedFaces } from '../testing';
import { WIDTH_PLACES, breakGreedily, opportunitiesOf } from './break';
import { cutItems } from './cut';
import type { FaceSet } from './faces';
import { justify } from './fit';
import { paragraphAt } from './paragraphs';
import { inVisualOrder } from './reorder';
import { shapeItems } from './shape';
import { hasCursive } from './scripts';
import { type SpacedRun, space, runsWidth } from './space';
import { runsOf } from './spans';
import { widthsOf } from './widths';
import { setBlock } from './set-block';

const WORDS = 'AV To, “Wave” fi Ta Ve. Yo Altair & Vega AVATAR To watch a valley';

describe('space, break and fit stages', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
  });
  const styled = (words: string, style: Partial<Style>, change: Partial<Block> = {}): Block => {
    const block = headline(words, change);
    return { ...block, style: { ...block.style, ...style } };
  };
  const surroundingsOf = (block: Block) => ({ block, paragraph: paragraphAt(block.words, 0), faces });
  const handOf = (block: Block) => new Map(block.hand.map(({ at, milliem }) => [at, Math.round(milliem * 10)]));
  const spacedOf = (block: Block): SpacedRun[] =>
    space(block.words, inVisualOrder(runsOf(shapeItems(surroundingsOf(block), { start: 0, end: block.words.length }))), handOf(block));

  it('gives whole numbers of one unit, so that sums are exact', () => {
    for (const kerning of ['font', 'weighed', 'shape', 'off'] as const) {
      const runs = spacedOf(styled('AVATAR Vega', { kerning, trackingMilliem: -12.3, wordSpaceMilliem: 7.1 }, { hand: [{ at: 2, milliem: -3.7 }] }));
      for (const { advances } of runs)
        expect([...advances].every(Number.isInteger))
          .withContext(kerning)
          .toBeTrue();
    }
  });

  it('keeps apart what stands only between letters, and puts none of it after the last', () => {
    const [run] = spacedOf(styled('AVA', { trackingMilliem: 50 }, { hand: [{ at: 1, milliem: -20 }] }));
    const unit = run?.instance.unitsPerEm ?? 0;
    expect([...(run?.between ?? [])].map((units) => units / unit)).toEqual([300, 500, 0]);
  });

  it('says how wide any stretch is once it is a line of its own', () => {
    const block = styled(WORDS, { trackingMilliem: 20, wordSpaceMilliem: -30 }, { hand: [{ at: 5, milliem: 40 }] });
    const widths = widthsOf(block.words, surroundingsOf(block).paragraph, spacedOf(block));
    const places = [...WORDS.matchAll(/ /g)].map(({ index }) => index);
    for (const end of places) {
      const items = shapeItems(surroundingsOf(block), { start: 0, end: WORDS.length });
      const line = space(block.words, runsOf(cutItems(surroundingsOf(block), items, { start: 0, end })), handOf(block));
      expect(widths.between(0, end)).toBeCloseTo(runsWidth(line), 6);
    }
    expect(widths.between(4, 4)).toBe(0);
  });

  it('says exactly how wide what stands between safe places is, in ligatures, under marks and across changes of style', () => {
    for (const words of ['office waffle AV. To', 'e\u0301te\u0301 AV\u0301A']) {
      const block = styled(words, { trackingMilliem: 0, wordSpaceMilliem: 12 }, { hand: [{ at: 3, milliem: 40 }] });
      const runs = [
        { start: 2, end: 4, style: { trackingMilliem: 33 } },
        { start: 6, end: 9, style: { sizePt: 31 } },
      ];
      for (const subject of [block, { ...block, runs }]) {
        const surroundings = surroundingsOf(subject);
        const items = shapeItems(surroundings, { start: 0, end: words.length });
        const widths = widthsOf(words, surroundings.paragraph, space(words, runsOf(items), handOf(subject)));
        const clusters = new Set(items.flatMap(({ glyphs }) => glyphs.map(({ cluster }) => cluster)));
        const places = [...clusters, words.length].filter((at) => at === 0 || at === words.length || widths.isSafe(at)).sort((a, b) => a - b);
        expect(places.length).toBeGreaterThan(3);
        for (const start of places) {
          for (const end of places) {
            if (end <= start) continue;
            const line = space(words, inVisualOrder(runsOf(cutItems(surroundings, items, { start, end }))), handOf(subject));
            expect(widths.between(start, end)).withContext(`${words} ${start} to ${end}`).toBeCloseTo(runsWidth(line), 6);
          }
        }
      }
    }
  });

  it('finds plain words’ opportunities where UAX #14 has them', () => {
    const word = fc.stringMatching(/^[A-Za-z0-9]{1,5}[.,;:!?]?$/);
    const blanks = fc.constantFrom(' ', '  ', '   ');
    const texts = fc.array(fc.tuple(word, blanks), { minLength: 1, maxLength: 12 }).map((pairs) => pairs.map(([one, blank]) => one + blank).join(''));
    const rules = new Rules({ example7: true });
    const byTheRules = (text: string): number[] => Array.from(rules.breaks(text), ({ position }) => position);
    expect(() =>
      fc.assert(
        fc.property(texts, fc.boolean(), (text, trimmed) => {
          const words = trimmed ? text.trimEnd() : text;
          if (opportunitiesOf(words).join() !== byTheRules(words).join()) throw new Error(`${opportunitiesOf(words).join()} / ${byTheRules(words).join()}`);
        }),
        { numRuns: 2000 },
      ),
    ).not.toThrow();
    // Anything else is asked of the rules.
    expect(opportunitiesOf('well-known (a b)/c')).toEqual(byTheRules('well-known (a b)/c'));
    expect(Object.entries(WIDTH_PLACES).map(([name, at]) => [name, new Rules().rules[at]?.name])).toEqual(
      Object.keys(WIDTH_PLACES).map((name) => [name, name]),
    );
    // Between a closing quote and an opening bracket, not inside quotes that are set apart, not inside numbers (Unicode 15.1).
    expect(opportunitiesOf('“a” (b) « c » 1 000,5')).toEqual([4, 8, 14, 16, 21]);
  });

  it('breaks at the last opportunity that fits', () => {
    const exactly = (start: number, end: number): number => end - start;
    // What is only about right decides nothing that is near.
    const widths = { about: (start: number, end: number) => end - start + 1.5, slackPt: 2, isSafe: () => false, exactly };
    const lines = (measure: number, first = measure): string[] =>
      breakGreedily('one two three four', { start: 0, end: 18 }, widths, { others: measure, first }).map(({ start, visibleEnd }) =>
        'one two three four'.slice(start, visibleEnd),
      );
    expect(lines(30)).toEqual(['one two three four']);
    expect(lines(9)).toEqual(['one two', 'three', 'four']);
    expect(lines(10, 3)).toEqual(['one', 'two three', 'four']);
    expect(lines(1)).toEqual(['one', 'two', 'three', 'four']);
  });

  it('breaks where the lines that are set fit: none sticks out, and none breaks that would have fitted', () => {
    const words = 'VA HH Ty. LY To AV We’ll P. Va Wo 11 Yo';
    for (const kerning of ['font', 'weighed', 'shape'] as const) {
      const style = { kerning, trackingMilliem: 7 };
      for (let widthPt = 150; widthPt < 900; widthPt += 3.7) {
        const { lines } = setBlock(styled(words, style, { frame: { xPt: 0, yPt: 0, widthPt, heightPt: 10 } }), faces);
        lines.forEach(({ start, visibleEnd, widthPt: set }, i) => {
          const alone = (to: number): number => setBlock(styled(words.slice(start, to), style), faces).lines[0]?.widthPt ?? 0;
          if (words.slice(start, visibleEnd).includes(' '))
            expect(set)
              .withContext(`${kerning} ${widthPt}`)
              .toBeLessThanOrEqual(widthPt + 1e-6);
          expect(alone(visibleEnd)).withContext(`${kerning} ${widthPt} line ${i}`).toBeCloseTo(set, 6);
          const next = words.indexOf(' ', visibleEnd + 1);
          if (lines[i + 1])
            expect(alone(next < 0 ? words.length : next))
              .withContext(`${kerning} ${widthPt} line ${i}`)
              .toBeGreaterThan(widthPt);
        });
      }
    }
  });

  it('breaks so whichever way letters run, in several styles and with hand values where they change', () => {
    const words = 'שלום עולם one two שלום, עולם שלום fin עולם';
    const runs = [2, 12, 20, 33].map((start, i) => ({ start, end: start + 5, style: i % 2 ? { sizePt: 31 } : { trackingMilliem: 90 } }));
    const hand = [2, 7, 12, 17, 20, 25, 33, 38].map((at, i) => ({ at, milliem: i % 2 ? -200 : 240 }));
    const block = styled(words, { sizePt: 40 }, { runs, hand });
    const surroundings = surroundingsOf(block);
    const items = shapeItems(surroundings, { start: 0, end: words.length });
    const widthTo = (start: number, end: number): number =>
      runsWidth(space(words, inVisualOrder(runsOf(cutItems(surroundings, items, { start, end }))), handOf(block)));
    for (let widthPt = 120; widthPt < 900; widthPt += 1.3) {
      const { lines } = setBlock({ ...block, frame: { xPt: 0, yPt: 0, widthPt, heightPt: 10 } }, faces);
      lines.forEach(({ start, visibleEnd, widthPt: set }, i) => {
        if (words.slice(start, visibleEnd).includes(' '))
          expect(set)
            .withContext(`${widthPt} line ${i}`)
            .toBeLessThanOrEqual(widthPt + 1e-6);
        const next = words.indexOf(' ', visibleEnd + 1);
        if (lines[i + 1])
          expect(widthTo(start, next < 0 ? words.length : next))
            .withContext(`${widthPt} line ${i}`)
            .toBeGreaterThan(widthPt);
      });
    }
  });

  it('puts nothing beside characters that show nothing, and tracks letters across them once', () => {
    const width = (words: string): number => setBlock(styled(words, { trackingMilliem: 100, faceId: 'source-sans-3-regular' }), faces).lines[0]?.widthPt ?? 0;
    for (const invisible of ['\u200b', '\u2060', '\u200c', '\u00ad', '\u200e']) {
      for (const words of [`on${invisible}ly`, `${invisible}only`, `only${invisible}`, `on${invisible}${invisible}ly`])
        expect(width(words)).withContext(JSON.stringify(words)).toBeCloseTo(width('only'), 6);
    }
  });

  it('shows a hyphen where a line ends in a soft one, and nowhere else', () => {
    const words = 'Stern\u00adbild Stern\u00adbild';
    const glyphOf = (letter: string) => faces.instance(styled('', {}).style).nominalGlyph(letter.codePointAt(0) ?? 0);
    const { lines } = setBlock(styled(words, {}, { frame: { xPt: 0, yPt: 0, widthPt: 420, heightPt: 10 } }), faces);
    const last = lines.map(({ runs }) => runs.at(-1)?.glyphs.at(-1)?.glyphId);
    const dividing = lines.map(({ visibleEnd }) => words.charAt(visibleEnd - 1) === '\u00ad');
    expect(dividing).toContain(true);
    expect(last.map((glyphId) => glyphId === glyphOf('‐') || glyphId === glyphOf('-'))).toEqual(dividing);
    for (const { widthPt } of lines) expect(widthPt).toBeLessThanOrEqual(420);
  });

  it('opens word space at the spaces of words, not at blanks of fixed width', () => {
    const width = (words: string, wordSpaceMilliem: number): number => setBlock(styled(words, { wordSpaceMilliem }), faces).lines[0]?.widthPt ?? 0;
    for (const blank of ['\u2002', '\u2009', '\u202f', '\u3000']) expect(width(`a${blank}b`, 100)).toBeCloseTo(width(`a${blank}b`, 0), 6);
    for (const blank of [' ', '\u00a0']) expect(width(`a${blank}b`, 100)).toBeCloseTo(width(`a${blank}b`, 0) + 10, 6);
  });

  it('tracks no letters that strokes join, but the blanks between their words', () => {
    const width = (words: string, trackingMilliem: number): number => setBlock(styled(words, { trackingMilliem }), faces).lines[0]?.widthPt ?? 0;
    expect(width('نجوم', 100)).toBeCloseTo(width('نجوم', 0), 6);
    expect(width('نجوم الليل', 100)).toBeCloseTo(width('نجوم الليل', 0) + 20, 6);
    expect(hasCursive('Nacht نجوم')).toBeTrue();
    expect(hasCursive('Nacht לילה')).toBeFalse();
  });

  it('justifies a line to a width exactly by its word spaces alone', () => {
    const line = (words: string, widthPt: number) => {
      const runs = spacedOf(headline(words));
      return justify(words, { runs, widthPt: runsWidth(runs) }, widthPt, PLAIN_JUSTIFY);
    };
    const before = runsWidth(spacedOf(headline('Two nights to watch')));
    fc.assert(
      fc.property(fc.double({ min: before - 20, max: before + 400, noNaN: true }), (widthPt) => {
        const fitted = line('Two nights to watch', widthPt);
        expect(fitted.widthPt).toBeCloseTo(widthPt, 6);
        const [was, is] = [spacedOf(headline('Two nights to watch'))[0], fitted.runs[0]];
        was?.glyphs.forEach(({ cluster }, i) => {
          if ('Two nights to watch'.charAt(cluster) !== ' ') expect(is?.advances[i]).toBe(was.advances[i]);
        });
      }),
    );
    // A word by itself stays; spaces close to half at most.
    expect(line('Nights', 2000).widthPt).toBe(runsWidth(spacedOf(headline('Nights'))));
    expect(line('a b', 1).widthPt).toBeGreaterThan(runsWidth(spacedOf(headline('ab'))));
  });

  it('justifies every line but the last of a paragraph', () => {
    const words = 'Bring a blanket, leave the torch. Doors open at dusk.\nThen look up and wait for it';
    const frame = { xPt: 40, yPt: 0, widthPt: 1200, heightPt: 500 };
    const { lines } = setBlock(headline(words, { align: 'justified', frame }), faces);
    expect(lines.length).toBeGreaterThan(3);
    for (const line of lines) {
      const last = line.end === words.indexOf('\n') || line.end === words.length;
      expect(line.leftPt).toBe(40);
      if (last) expect(line.widthPt).toBeLessThan(1190);
      else expect(line.widthPt).toBeCloseTo(1200, 6);
    }
  });
});
