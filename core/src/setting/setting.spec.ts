import fc from 'fast-check';
import { type Block, type Style, handAt, nudgeHand, withHand } from '../job';
import { Face } from '../face';
import { fontBytes, headline, shippedFaces } from '../testing';
import { NOTICED, profileOf } from '../spacing';
import { FaceSet, type SetLine, gapsOf, ledgersOf, setBlock, whiteOfGap } from './index';

const ORIGIN = { xPt: 0, yPt: 0, widthPt: 40_000, heightPt: 100 };

describe('setting', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'eb-garamond-regular', 'source-sans-3-regular');
  });

  const only = (block: Block): SetLine => {
    const [line, ...rest] = setBlock(block, faces).lines;
    if (!line || rest.length > 0) throw new Error(`expected one line, got ${rest.length + 1}`);
    return line;
  };
  const xs = (line: SetLine): number[] => line.runs.flatMap((run) => run.glyphs.map((glyph) => glyph.xPt));
  const styled = (words: string, style: Partial<Block['style']>, change: Partial<Block> = {}): Block => {
    const base = headline(words, change);
    return { ...base, style: { ...base.style, ...style } };
  };

  it('places letters at exact sums of font units', () => {
    const instance = faces.instance({ faceId: 'playfair-display-bold', axes: {} });
    const glyphs = instance.shape('AVATAR', 0, 6);
    let units = 0;
    const expected = glyphs.map((glyph) => {
      const x = (units * 100) / 1000;
      units += glyph.xAdvance;
      return x;
    });
    const line = only(headline('AVATAR'));
    expect(xs(line).map((x) => x.toFixed(9))).toEqual(expected.map((x) => x.toFixed(9)));
    expect(line.widthPt).toBeCloseTo(units / 10, 9);
  });

  it('adds tracking between letters but not after the last', () => {
    const plain = only(headline('VEGA'));
    const tracked = only(styled('VEGA', { trackingMilliem: -12 }));
    xs(tracked).forEach((x, i) => expect(x - (xs(plain)[i] ?? 0)).toBeCloseTo(-1.2 * i, 9));
    expect(tracked.widthPt - plain.widthPt).toBeCloseTo(-3.6, 9);
  });

  it('centres and flushes what is seen, whatever the tracking', () => {
    fc.assert(
      fc.property(fc.integer({ min: -100, max: 400 }), fc.constantFrom('VEGA ', 'to watch', 'A'), (trackingMilliem, words) => {
        const frame = { ...ORIGIN, xPt: 50, widthPt: 2000 };
        const centred = only(styled(words, { trackingMilliem }, { frame, align: 'centre' }));
        expect(centred.leftPt + centred.widthPt / 2).toBeCloseTo(1050, 8);
        const right = only(styled(words, { trackingMilliem }, { frame, align: 'right' }));
        expect(right.leftPt + right.widthPt).toBeCloseTo(2050, 8);
      }),
    );
  });

  it('adds hand kerning at its gap only', () => {
    const plain = only(headline('VALLEY'));
    const kerned = only(
      headline('VALLEY', {
        hand: [
          { at: 1, milliem: -50 },
          { at: 3, milliem: 10 },
        ],
      }),
    );
    const moved = xs(kerned).map((x, i) => Number((x - (xs(plain)[i] ?? 0)).toFixed(6)));
    expect(moved).toEqual([0, -5, -5, -4, -4, -4]);
  });

  it('widens word spaces without moving letters inside words', () => {
    const plain = only(headline('A VALLEY OF'));
    const wide = only(styled('A VALLEY OF', { wordSpaceMilliem: 100 }));
    const moved = xs(wide).map((x, i) => Math.round(x - (xs(plain)[i] ?? 0)));
    expect(moved).toEqual([0, 0, 10, 10, 10, 10, 10, 10, 10, 20, 20]);
  });

  it('switches the font’s kerning off', () => {
    const on = only(headline('AVATAR'));
    const off = only(styled('AVATAR', { kerning: 'off' }));
    expect(off.widthPt).toBeGreaterThan(on.widthPt + 5);
  });

  it('breaks hard where told, greedily at the frame, and lets a long word stick out', () => {
    const words = 'Two nights to watch\na valley of\n\nfalling stars';
    const lines = setBlock(headline(words), faces).lines;
    expect(lines.map((line) => words.slice(line.start, line.visibleEnd))).toEqual(['Two nights to watch', 'a valley of', '', 'falling stars']);

    const measure = only(headline('Two nights')).widthPt + 1;
    const wrapped = setBlock(headline(words, { frame: { ...ORIGIN, widthPt: measure } }), faces).lines;
    expect(wrapped.map((line) => words.slice(line.start, line.visibleEnd))).toEqual(['Two nights', 'to watch', 'a valley of', '', 'falling', 'stars']);
    for (const line of wrapped) expect(line.widthPt).toBeLessThanOrEqual(measure);

    const narrow = setBlock(headline('Extraordinary night', { frame: { ...ORIGIN, widthPt: 50 } }), faces).lines;
    expect(narrow.length).toBe(2);
    expect(narrow[0]?.widthPt).toBeGreaterThan(50);
  });

  it('sets a wrapped line exactly as it sets the same line alone', () => {
    const words = 'AV To, “Wave” fi Ta Ve. Yo Altair & Vega AVATAR To watch a valley of falling stars';
    fc.assert(
      fc.property(fc.integer({ min: 150, max: 1500 }), fc.integer({ min: -30, max: 60 }), (widthPt, trackingMilliem) => {
        for (const line of setBlock(styled(words, { trackingMilliem }, { frame: { ...ORIGIN, widthPt } }), faces).lines) {
          const alone = only(styled(words.slice(line.start, line.visibleEnd), { trackingMilliem }));
          expect(xs(line).map((x) => x.toFixed(6))).toEqual(xs(alone).map((x) => x.toFixed(6)));
        }
      }),
      { numRuns: 60 },
    );
  });

  it('never breaks a line that fits and never fits a line that doesn’t', () => {
    const words = 'Bring a blanket, leave the torch. Doors open at dusk.';
    fc.assert(
      fc.property(fc.integer({ min: 200, max: 1800 }), fc.integer({ min: -30, max: 200 }), (widthPt, wordSpaceMilliem) => {
        const lines = setBlock(styled(words, { wordSpaceMilliem }, { frame: { ...ORIGIN, widthPt }, hand: [{ at: 3, milliem: 200 }] }), faces).lines;
        lines.forEach((line, i) => {
          if (words.slice(line.start, line.visibleEnd).includes(' ')) expect(line.widthPt).toBeLessThanOrEqual(widthPt + 1e-6);
          const next = lines[i + 1];
          if (!next) return;
          const word = /^\S+/.exec(words.slice(next.start))?.[0] ?? '';
          const longer = only(
            styled(words.slice(line.start, next.start) + word, { wordSpaceMilliem }, { hand: line.start === 0 ? [{ at: 3, milliem: 200 }] : [] }),
          );
          expect(longer.widthPt).toBeGreaterThan(widthPt);
        });
      }),
      // The first fits its measure exactly.
      { numRuns: 60, examples: [[1039, 120]] },
    );
  });

  it('leads from baseline to baseline', () => {
    const lines = (change: Partial<Block>): number[] => setBlock(headline('one\ntwo\nthree', change), faces).lines.map((line) => line.baselinePt);
    const ascender = (faces.get('playfair-display-bold')?.metrics.ascender ?? 0) / 10;
    const diffs = (values: number[]): number[] => values.slice(1).map((value, i) => Number((value - (values[i] ?? 0)).toFixed(6)));
    expect(lines({ frame: { ...ORIGIN, yPt: 30 } })[0]).toBeCloseTo(30 + ascender, 6);
    expect(diffs(lines({}))).toEqual([120, 120]);
    expect(diffs(lines({ leading: { kind: 'pt', pt: 91.5 } }))).toEqual([91.5, 91.5]);
    expect(diffs(lines({ leading: { kind: 'multiple', factor: 0.9 } }))).toEqual([90, 90]);
    expect(diffs(lines({ runs: [{ start: 5, end: 6, style: { sizePt: 200 } }] }))).toEqual([240, 120]);
  });

  it('forms ligatures only where nothing stands inside them', () => {
    const glyphs = (block: Block): number => only(block).runs.flatMap((run) => run.glyphs).length;
    const words = (change: Partial<Block> = {}, style: Partial<Block['style']> = {}): Block => {
      const base = headline('affine', change);
      return { ...base, style: { ...base.style, faceId: 'eb-garamond-regular', ...style } };
    };
    expect(glyphs(words())).toBe(4); // a ffi n e
    expect(glyphs(words({}, { trackingMilliem: 5 }))).toBe(6);
    expect(glyphs(words({ hand: [{ at: 1, milliem: 10 }] }))).toBe(4);
    expect(glyphs(words({ hand: [{ at: 4, milliem: 10 }] }))).toBe(4);
    expect(glyphs(words({ hand: [{ at: 2, milliem: 10 }] }))).toBe(6);
    expect(glyphs(words({ hand: [{ at: 3, milliem: 10 }] }))).toBe(5); // a ff i n e
    expect(gapsOf(only(words({ hand: [{ at: 3, milliem: 10 }] }))).some(({ at }) => at === 3)).toBeTrue();
  });

  it('sets several styles on one line', () => {
    const line = only(headline('Vega & Altair', { runs: [{ start: 7, end: 13, style: { sizePt: 50, faceId: 'source-sans-3-regular', colour: '#aa0000' } }] }));
    expect(line.runs.map(({ start, end, style }) => [start, end, style.sizePt])).toEqual([
      [0, 7, 100],
      [7, 13, 50],
    ]);
    const alone = only(styled('Altair', { sizePt: 50, faceId: 'source-sans-3-regular' }));
    const start = line.runs[1]?.glyphs[0]?.xPt ?? 0;
    expect(line.runs[1]?.glyphs.map((glyph) => (glyph.xPt - start).toFixed(6))).toEqual(xs(alone).map((x) => x.toFixed(6)));
  });

  it('shapes each script by itself and keeps marks on their letters', () => {
    const words = 'Ночь é Vega';
    const line = only(styled(words, { faceId: 'source-sans-3-regular' }));
    expect(gapsOf(line).map(({ at }) => at)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
    expect(gapsOf(only(styled('xe\u0301x', { faceId: 'source-sans-3-regular' }))).map(({ at }) => at)).toEqual([1, 3]);
  });

  it('names a missing face and sets its words in the stand-in', () => {
    const setting = setBlock(styled('Tonight', { faceId: 'gone' }), faces);
    expect(setting.missingFaces).toEqual(['gone']);
    expect(setting.lines[0]?.widthPt).toBeCloseTo(only(headline('Tonight')).widthPt, 9);
    expect(setBlock(headline('Tonight'), faces).missingFaces).toEqual([]);
  });

  it('sets an empty block as one empty line', () => {
    const line = only(headline(''));
    expect(line.widthPt).toBe(0);
    expect(line.sizePt).toBe(100);
  });

  describe('gap', () => {
    const ledgers = (block: Block) => ledgersOf(block, only(block), faces);

    it('tells font, hand and total in 1/1000 em and points', () => {
      const block = styled('VALLEY', { sizePt: 50, trackingMilliem: 4 }, { hand: [{ at: 1, milliem: 7 }] });
      const va = ledgers(block)[0];
      const instance = faces.instance(block.style);
      const [on] = instance.shape('VA', 0, 2);
      const [off] = instance.shape('VA', 0, 2, [{ tag: 'kern', value: 0 }]);
      const font = (on?.xAdvance ?? 0) - (off?.xAdvance ?? 0);
      expect(font).toBeLessThan(-20);
      expect(va).toEqual(
        jasmine.objectContaining({
          at: 1,
          fontMilliem: font,
          source: 'font',
          handMilliem: 7,
          totalMilliem: font + 7,
          trackingMilliem: 4,
          sizePt: 50,
          atSpace: false,
        }),
      );
      expect(va?.totalPt).toBeCloseTo(((font + 7) * 50) / 1000, 9);
      expect(va?.left).toEqual({ start: 0, end: 1 });
      expect(va?.right).toEqual({ start: 1, end: 2 });
    });

    it('shows what the font holds when its kerning is off', () => {
      const block = styled('VA', { kerning: 'off' }, { hand: [{ at: 1, milliem: -30 }] });
      expect(ledgers(block)[0]).toEqual(jasmine.objectContaining({ source: 'off', totalMilliem: -30 }));
      expect(ledgers(block)[0]?.fontMilliem).toBeLessThan(-20);
    });

    it('adds up to where the letters stand', () => {
      fc.assert(
        fc.property(
          fc.array(fc.integer({ min: -80, max: 80 }), { minLength: 12, maxLength: 12 }),
          fc.constantFrom('To watch a AVTo', 'Yo, “Ta” fiTe'),
          (values, words) => {
            let job = { sheets: [{ blocks: [headline(words)] }], pairs: [] } as unknown as Parameters<typeof withHand>[0];
            values.forEach((value, i) => (job = nudgeHand(job, 'b', i + 1, value)));
            const block = job.sheets[0]?.blocks[0] as Block;
            const bare = only(styled(words, { kerning: 'off', trackingMilliem: 0 }, { hand: block.hand.map(({ at }) => ({ at, milliem: 0.1 })) }));
            const line = only(block);
            const places = gapsOf(line);
            const barePlaces = gapsOf(bare);
            let sum = 0;
            ledgers(block).forEach((ledger, i) => {
              expect(ledger.handMilliem).toBe(handAt(block, ledger.at));
              sum += ledger.totalPt;
              const tenths = block.hand.filter(({ at }) => at <= ledger.at).length * 0.01;
              expect((places[i]?.xPt ?? 0) - (barePlaces[i]?.xPt ?? 0)).toBeCloseTo(sum - tenths, 6);
            });
          },
        ),
        { numRuns: 40 },
      );
    });

    it('is kerned by shape where the style says so, at its strength, per block and range', () => {
      const off = ledgers(styled('AVATAR', { kerning: 'off' }));
      const shaped = styled('AVATAR', { kerning: 'shape' });
      expect(ledgers(shaped).map(({ totalMilliem }) => totalMilliem)).toEqual(off.map(({ shapeMilliem }) => shapeMilliem));
      const placed = xs(only(shaped));
      const bare = xs(only(styled('AVATAR', { kerning: 'off' })));
      let sum = 0;
      off.forEach(({ shapeMilliem }, i) => {
        sum += shapeMilliem / 10;
        expect((placed[i + 1] ?? 0) - (bare[i + 1] ?? 0)).toBeCloseTo(sum, 6);
      });
      const half = ledgers(styled('AVATAR', { kerning: 'shape', kerningStrength: 0.5 }));
      expect(half[0]?.totalMilliem).toBeCloseTo((off[0]?.shapeMilliem ?? 0) / 2, 1);
      const ranged = headline('AVATAR', { runs: [{ start: 0, end: 2, style: { kerning: 'shape' } }] });
      expect(ledgers(ranged).map(({ source }) => source)).toEqual(['shape', 'shape', 'font', 'font', 'font']);
    });

    it('comes out the same in a font without kerning of its own', async () => {
      const bare = new FaceSet('playfair-display-bold');
      bare.add('playfair-display-bold', await Face.open(fontBytes('playfair-display-bold'), { withoutTables: ['GPOS', 'kern'] }));
      for (const words of ['Wave', 'To,', '“AVATAR”']) {
        const block = styled(words, { kerning: 'shape' });
        expect(xs(setBlock(block, bare).lines[0] as SetLine)).toEqual(xs(only(block)));
        // What is weighed is by shape where the font has no word.
        expect(xs(setBlock(styled(words, { kerning: 'weighed' }), bare).lines[0] as SetLine)).toEqual(xs(only(block)));
      }
    });

    it('believes the font more in a script that the models have not learned', () => {
      const [gap] = ledgers(styled('Глубоко', { faceId: 'eb-garamond-regular', kerning: 'font' }));
      // The foot of л closes more white here than any Latin letter's does.
      expect([gap?.fontMilliem, gap?.shapeMilliem]).toEqual([-140, -55]);
      expect(gap?.plainMilliem).toBe(-55 + 0.9 * (-140 + 55));
      expect(gap?.deviationMilliem).toBeGreaterThan(-NOTICED);
      const [weighed] = ledgers(styled('Глубоко', { faceId: 'eb-garamond-regular', kerning: 'weighed' }));
      expect(weighed?.totalMilliem).toBe(-140);
    });

    it('is weighed where the style says so: as the font has it, but where that is seen to be wrong', () => {
      const words = 'AVATAR Two Kites';
      const asFont = ledgers(styled(words, { kerning: 'font' }));
      const weighed = ledgers(styled(words, { kerning: 'weighed' }));
      const bare = xs(only(styled(words, { kerning: 'off' })));
      let sum = 0;
      weighed.forEach((gap, i) => {
        const font = asFont[i]!;
        expect([gap.totalMilliem, gap.fontMilliem])
          .withContext(words.slice(i, i + 2))
          .toEqual([font.weighedMilliem, font.fontMilliem]);
        if (gap.totalMilliem !== gap.fontMilliem && !gap.atSpace) expect(Math.abs(font.deviationMilliem)).toBeGreaterThanOrEqual(NOTICED - 0.5);
        expect(gap.deviationMilliem).toBe(0);
        sum += gap.totalMilliem / 10;
        expect((xs(only(styled(words, { kerning: 'weighed' })))[i + 1] ?? 0) - (bare[i + 1] ?? 0)).toBeCloseTo(sum, 6);
      });
      const kept = weighed.filter(({ totalMilliem, fontMilliem }) => totalMilliem === fontMilliem);
      expect(kept.length).toBeGreaterThan(weighed.length * 0.8);
    });

    it('between words keeps the font’s pairs with the space, and takes from open sides where it has none', () => {
      // Playfair Display kerns its letters with the space, Source Sans 3 none.
      const own = ledgers(styled('A V o n', { kerning: 'font' })).filter(({ atSpace }) => atSpace);
      expect(own.some(({ fontMilliem }) => fontMilliem < -20)).toBeTrue();
      for (const kerning of ['shape', 'weighed'] as const) {
        const gaps = ledgers(styled('A V o n', { kerning })).filter(({ atSpace }) => atSpace);
        gaps.forEach(({ totalMilliem, fontMilliem }, i) => {
          expect(fontMilliem).toBe(own[i]!.fontMilliem);
          if (fontMilliem !== 0) expect(totalMilliem).toBe(fontMilliem);
        });
      }
      const sans = (kerning: Style['kerning'], words: string) =>
        ledgers(styled(words, { kerning, faceId: 'source-sans-3-regular' })).map(({ totalMilliem }) => totalMilliem);
      expect(sans('font', 'A V')).toEqual([0, 0]);
      const [after = 0, before = 0] = sans('shape', 'A V');
      expect(Math.max(after, before)).toBeLessThan(-10);
      expect(after + before).toBeLessThan(-30);
      expect(sans('shape', 'H H')).toEqual([0, 0]);
      expect(sans('shape', 'T o')[0]).toBeLessThan(-10);
      expect(sans('shape', 'r. A')[2]).toBeLessThan(-10);
      // Most houses leave them alone.
      const [less = 0] = sans('weighed', 'A V');
      expect(less).toBeLessThan(0);
      expect(less).toBeGreaterThan(after);
    });

    it('is measured between letters of different sizes and faces', () => {
      const runs = [
        { start: 1, end: 2, style: { sizePt: 50 } },
        { start: 3, end: 4, style: { faceId: 'source-sans-3-regular' } },
      ];
      const [shape, off] = (['shape', 'off'] as const).map((kerning) => ledgers(styled('AVAT', { kerning }, { runs })));
      const alike = ledgers(styled('AVAT', { kerning: 'shape' }));
      expect(shape?.map(({ shapeMilliem }) => shapeMilliem)).not.toEqual(alike.map(({ shapeMilliem }) => shapeMilliem));
      off?.forEach((bare, i) => {
        const kerned = shape![i]!;
        // What is proposed brings the white nearer to what the rhythm wants, and no inks onto each other.
        const away = ({ whiteMilliem, targetMilliem }: { whiteMilliem: number; targetMilliem: number }): number => Math.abs(whiteMilliem - targetMilliem);
        if (bare.shapeMilliem !== 0) expect(away(kerned)).toBeLessThan(away(bare));
        expect(kerned.distancePt).toBeGreaterThan(0);
      });
      expect(off?.some(({ shapeMilliem }) => shapeMilliem < -20)).toBeTrue();
    });

    it('is measured the same whatever was measured before it: by size, width, height, turn and face of both letters', async () => {
      const ways: Partial<Block['style']>[] = [
        { sizePt: 50 },
        { sizePt: 50, scaleX: 1.3 },
        { sizePt: 50, baselineShiftMilliem: 300 },
        { turnDeg: 12 },
        { turnDeg: -12 },
        { faceId: 'source-sans-3-regular' },
        { faceId: 'source-sans-3-regular', turnDeg: 12 },
      ];
      const proposals = ways.map((style) =>
        ledgers(styled('TAVA', { kerning: 'shape' }, { runs: [{ start: 1, end: 2, style }] })).map((one) => one.shapeMilliem),
      );
      expect(new Set(proposals.map((one) => one.join())).size).toBe(ways.length);
      for (const [i, style] of ways.entries()) {
        const fresh = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
        const block = styled('TAVA', { kerning: 'shape' }, { runs: [{ start: 1, end: 2, style }] });
        expect(ledgersOf(block, setBlock(block, fresh).lines[0] as SetLine, fresh).map((one) => one.shapeMilliem)).toEqual(proposals[i] ?? []);
      }
    });

    it('tells the shapes of its sides, and shows its white as a picture', () => {
      const block = headline('HIAV');
      const [hi, , av] = ledgers(block);
      expect(hi?.shapes).toEqual({ left: 'straight', right: 'straight' });
      expect(av?.shapes).toEqual({ left: 'diagonal', right: 'diagonal' });
      const white = av && whiteOfGap(block, only(block), av, faces);
      const widths = white?.edges.flatMap((edge) => (edge ? [edge.right - edge.left] : [])) ?? [];
      expect(widths.length).toBeGreaterThan(20);
      expect(Math.min(...widths)).toBeGreaterThan(-1);
      expect(ledgers(headline('A V'))[0]?.shapes.right).toBeUndefined();
    });

    it('shows no white over ink that hangs over its advance', () => {
      const block = headline('fa');
      const [fa] = ledgers(block);
      const instance = faces.instance(block.style);
      const f = profileOf(instance, instance.nominalGlyph(0x66) ?? 0);
      const hangs = -Math.min(...(f?.right.raw ?? []));
      expect(hangs).toBeGreaterThan(0.02);
      const white = fa && whiteOfGap(block, only(block), fa, faces);
      const reaches = Math.max(...(white?.edges ?? []).map((edge) => edge?.left ?? Number.NEGATIVE_INFINITY));
      expect(reaches).toBeCloseTo((hangs - (fa?.totalMilliem ?? 0) / 1000) * block.style.sizePt, 6);
    });

    it('marks gaps beside word spaces', () => {
      expect(ledgers(headline('A V')).map(({ atSpace }) => atSpace)).toEqual([true, true]);
    });
  });
});
