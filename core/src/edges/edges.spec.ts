import { readFileSync, readdirSync } from 'node:fs';
import { Face, type FaceInstance } from '../face';
import { createBlock, USUAL_EDGES, type Block, type Edges } from '../job';
import { FaceSet, inkOf, setLettersOf, seenLines, setBlock } from '../setting';
import { BAND, BANDS, DEEPEST, LOWEST, leanOf, rhythmOf, sideShape } from '../spacing';
import { shippedFaces } from '../testing';
import { edgeShape, hangingBefore, hangingBehind, uprightProfile } from '.';

const FACES = readdirSync(new URL('../../../faces/', import.meta.url)).flatMap((file) => (file.endsWith('.ttf') ? [file.slice(0, -4)] : []));

describe('edges', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces(...FACES)));

  const block = (words: string, change: Partial<Block> & { faceId?: string; sizePt?: number } = {}): Block => {
    const { faceId = 'source-sans-3-regular', sizePt = 100, ...rest } = change;
    return { ...createBlock('b', words, { xPt: 50, yPt: 0, widthPt: 900, heightPt: 100 }, { faceId, sizePt }), edges: USUAL_EDGES, ...rest };
  };
  /** The ink of a letter of a block as set. */
  const inkAt = (one: Block, at: number): { leftPt: number; rightPt: number } => {
    const setting = setBlock(one, faces);
    const lines = setting.lines.map(({ mark: _mark, ...line }) => ({
      ...line,
      runs: line.runs.map((run) => ({ ...run, glyphs: run.glyphs.filter(({ cluster }) => cluster === at) })),
    }));
    const ink = inkOf({ lines }, faces);
    if (!ink) throw new Error('No ink');
    return ink;
  };

  it('stems of any size stand exactly on the edge, left and right, in every face', () => {
    for (const faceId of FACES) {
      for (const sizePt of [20, 120]) {
        expect(inkAt(block('HIH', { faceId, sizePt }), 0).leftPt)
          .withContext(faceId)
          .toBeCloseTo(50, 2);
        expect(inkAt(block('HIH', { faceId, sizePt, align: 'right' }), 2).rightPt)
          .withContext(faceId)
          .toBeCloseTo(950, 2);
      }
    }
  });

  it('rounds and points never stay inside the edge, and reach past it by no more than they should, in serif and sans alike', async () => {
    const shelf = new FaceSet('source-sans-3-regular');
    for (const faceId of FACES) shelf.add(faceId, faces.get(faceId)!);
    for (const file of ['rokkitt-400.woff', 'roboto-400-italic.woff', 'great-vibes-400.woff', 'ibm-plex-serif-400.woff', 'dm-serif-display-400.woff']) {
      shelf.add(file, await Face.open(new Uint8Array(readFileSync(new URL(`../../../faces/catalogue/${file}`, import.meta.url)))));
    }
    const past = (faceId: string, letter: string, side: 'left' | 'right' = 'left'): number => {
      const instance = shelf.instance({ faceId, axes: {} });
      return 1000 * (edgeShape(instance, instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0, side)?.past ?? Number.NaN);
    };
    for (const [faceId] of shelf.entries()) {
      for (const side of ['left', 'right'] as const) {
        for (const [letters, most] of [
          ['OQCGSDocesaqdgpbvwy08.,', 25],
          ['TVWYA', 60],
          ['H', 1e-6],
        ] as const) {
          for (const letter of letters) {
            const found = past(faceId, letter, side);
            expect(found >= 0 && found <= most)
              .withContext(`${faceId} ${letter} ${side}: ${found}`)
              .toBeTrue();
          }
        }
      }
    }
    // As far in a face with serifs as in one without, or nearly.
    for (const letter of 'OoAV')
      expect(Math.abs(past('playfair-display-bold', letter) - past('source-sans-3-regular', letter)))
        .withContext(letter)
        .toBeLessThan(15);
    expect(past('source-sans-3-regular', 'T')).toBeGreaterThan(past('source-sans-3-regular', 'O'));
    const sans = shelf.instance({ faceId: 'source-sans-3-regular', axes: {} });
    expect(edgeShape(sans, sans.nominalGlyph(0x20) ?? 0, 'left')).toBeUndefined();
  });

  it('are what the definition says, slice by slice, upright faces and leaning ones, letters with tails among them', () => {
    /** As `docs/spacing.md` puts it, without any shortcut. */
    const defined = (instance: FaceInstance, id: number, side: 'left' | 'right'): { tail: number | undefined; past: number } => {
      const leans = leanOf(instance).slope !== 0;
      const met = (glyph: number): { tail: number | undefined; depths: number[] } => {
        const profile = uprightProfile(instance, glyph)!;
        const { fine } = profile[side];
        const slice = (BAND * BANDS) / fine.length;
        const tail = leans && profile.top > 0.2 && profile.bottom < -0.05;
        const from = tail ? 0 : profile.bottom;
        const first = Math.max(0, Math.floor((from - LOWEST) / slice));
        const last = Math.min(fine.length - 1, Math.ceil((profile.top - LOWEST) / slice) - 1);
        const edges = [...fine.slice(first, Math.max(first, last) + 1)];
        const outermost = side === 'left' ? profile.inkLeft : profile.advance - profile.inkRight;
        const bearing = tail ? Math.min(...edges) : outermost;
        const deep = edges.map((edge) => Math.max(0, Math.min(DEEPEST, edge - bearing)));
        return { tail: tail ? bearing : undefined, depths: deep.map((_, i) => Math.min(DEEPEST, ...deep.map((depth, j) => depth + Math.abs(i - j) * slice))) };
      };
      const nearness = (depths: readonly number[], past: number): number =>
        depths.reduce((sum, depth) => sum + 1 / Math.max(0.005, 0.1 + depth - past) ** 2, 0) / depths.length;
      const glyph = (letter: string): number => instance.nominalGlyph(letter.codePointAt(0) ?? 0)!;
      const profile = uprightProfile(instance, id)!;
      const { depths: all } = met(id);
      const meets = (from: readonly number[]): boolean => {
        const [near, far] = [0.15, 0.4].map((share) => Math.max(1, Math.round(share * from.length))) as [number, number];
        return (
          Math.min(...from.slice(0, near)) < 0.012 &&
          Math.min(...from.slice(-far)) >= 0.06 &&
          from.slice(-far).reduce((sum, depth) => sum + depth, 0) / far >= 0.1
        );
      };
      const atEnd = meets(all) || meets([...all].reverse());
      const plain = Math.abs(leanOf(instance).slope) < 0.06 && (atEnd || sideShape(profile[side], profile).kind === 'round');
      const stem = plain ? 100 : nearness(met(glyph('H')).depths, 0);
      const { capHeight, xHeight } = rhythmOf(instance);
      const most = atEnd && profile.top > (capHeight + xHeight) / 2 && profile.bottom > -0.05 ? 0.06 : 0.025;
      const least = 0;
      const { tail, depths } = met(id);
      // The farthest place at which the side isn't nearer to the edge than a stem.
      let past = least;
      for (let step = 0.01; step > 1e-9; step /= 10) while (past + step <= most && nearness(depths, past + step) <= stem) past += step;
      if (nearness(depths, most) <= stem) past = most;
      return { tail, past };
    };
    let tails = 0;
    for (const faceId of ['source-sans-3-regular', 'playfair-display-bold', 'eb-garamond-italic']) {
      const instance = faces.instance({ faceId, axes: {} });
      const em = instance.unitsPerEm;
      for (const letter of 'HIOTALVSfgjpQyx.“-') {
        const id = instance.nominalGlyph(letter.codePointAt(0) ?? 0)!;
        for (const side of ['left', 'right'] as const) {
          const where = `${faceId} ${letter} ${side}`;
          const [shape, wanted, bounds] = [edgeShape(instance, id, side)!, defined(instance, id, side), instance.inkBounds(id)!];
          expect(shape.past).withContext(where).toBeCloseTo(wanted.past, 6);
          expect(shape.bearing)
            .withContext(where)
            .toBeCloseTo(wanted.tail ?? shape.ink, 9);
          expect(shape.ink)
            .withContext(where)
            .toBeCloseTo(side === 'left' ? bounds.xMin / em : instance.advance(id) / em - bounds.xMax / em, 9);
          if (wanted.tail !== undefined && shape.bearing > shape.ink + 0.01) tails++;
          // Asked again, it is the same.
          expect(edgeShape(instance, id, side)).toBe(shape);
        }
      }
    }
    expect(tails).toBeGreaterThan(2);
  });

  it('follows its strength from side bearings to what is seen', () => {
    const at = (optical: number): number => inkAt(block('Over', { edges: { ...USUAL_EDGES, optical } }), 0).leftPt;
    expect(at(0)).toBeCloseTo(inkAt(block('Over', { edges: null }), 0).leftPt, 6);
    expect(at(0.5)).toBeCloseTo((at(0) + at(1)) / 2, 6);
  });

  it('tells the marks that hang, and no line that is marks alone', () => {
    expect(hangingBefore('“‘Look', true)).toEqual(['quotes', 'quotes']);
    expect(hangingBefore('• Soup', true)).toEqual(['bullets', 'bullets']);
    expect(hangingBefore('12. Soup', true)).toEqual(['numbers', 'numbers', 'numbers', 'numbers']);
    expect(hangingBefore('12. Soup', false)).toEqual([]);
    expect(hangingBefore('-ward', false)).toEqual(['dashes']);
    expect(hangingBefore('...', true)).toEqual([]);
    expect(hangingBehind('say,”')).toEqual(['quotes', 'points']);
    expect(hangingBehind('dome*')).toEqual(['bullets']);
    expect(hangingBehind('well-')).toEqual(['dashes']);
    expect(hangingBehind('(so)')).toEqual([]);
    expect(hangingBehind('.')).toEqual([]);
    // A number wants its blank, a bullet too; a blank hangs only behind them.
    expect(hangingBefore('12.Soup', true)).toEqual([]);
    expect(hangingBefore('1234. Soup', true)).toEqual([]);
    expect(hangingBefore('3) Soup', true)).toEqual(['numbers', 'numbers', 'numbers']);
    expect(hangingBefore('7. “Soup', true)).toEqual(['numbers', 'numbers', 'numbers', 'quotes']);
    expect(hangingBefore('*Soup', true)).toEqual([]);
    expect(hangingBefore('- Soup', true)).toEqual(['bullets', 'bullets']);
    expect(hangingBefore('- Soup', false)).toEqual(['dashes']);
    expect(hangingBefore('“ Soup', true)).toEqual(['quotes']);
    expect(hangingBefore(' Soup', true)).toEqual([]);
    expect(hangingBehind('a.')).toEqual(['points']);
    expect(hangingBehind('a b')).toEqual([]);
  });

  it('hangs marks outside both edges by the amounts of their kind, so that letters align with letters', () => {
    const plain = inkAt(block('HIH'), 0).leftPt;
    expect(inkAt(block('“HIH'), 1).leftPt).toBeCloseTo(plain, 4);
    expect(inkAt(block('• HIH'), 2).leftPt).toBeCloseTo(plain, 4);
    expect(inkAt(block('HIH.”', { align: 'right' }), 2).rightPt).toBeCloseTo(950, 2);
    const half: Edges = { ...USUAL_EDGES, hang: { ...USUAL_EDGES.hang, quotes: 0.5 } };
    const [none, all] = [0, 1].map((quotes) => inkAt(block('“HIH', { edges: { ...half, hang: { ...half.hang, quotes } } }), 1).leftPt);
    expect(inkAt(block('“HIH', { edges: half }), 1).leftPt).toBeCloseTo(((none ?? 0) + (all ?? 0)) / 2, 4);
    // The marks of lists hang as a whole column.
    const list = { indentPt: 0, beforePt: 0, afterPt: 0, list: 'bullet' } as const;
    expect(inkAt(block('HIH', { paragraph: list }), 0).leftPt).toBeCloseTo(50, 2);
    expect(inkAt(block('HIH', { paragraph: list, edges: null }), 0).leftPt).toBeGreaterThan(70);
  });

  it('centres every line on the ink of its letters, within 0.05 pt of the axis, whatever marks stand around them', () => {
    for (const faceId of FACES) {
      for (const words of ['“Look up,”', 'Tonight:', 'HIH', '“…wait”', 'A valley.', '— Look up —', '“–wait”']) {
        const one = block(words, { faceId, align: 'centre' });
        const letters = [...words.matchAll(/[A-Za-z—–]/g)].map(({ index }) => inkAt(one, index));
        const middle = (Math.min(...letters.map(({ leftPt }) => leftPt)) + Math.max(...letters.map(({ rightPt }) => rightPt))) / 2;
        expect(Math.abs(middle - 500))
          .withContext(`${faceId} ${words}`)
          .toBeLessThan(0.05);
      }
    }
  });

  it('indents lines by hand on top, and says how far every line stands from its side bearings', () => {
    const one = block('Over\nHIH', { lineIndents: [{ at: 5, byPt: 12 }] });
    const [first, second] = setBlock(one, faces).lines;
    const [plain] = setBlock({ ...one, edges: null, lineIndents: [] }, faces).lines;
    expect(first?.offsetPt).toBeCloseTo((first?.leftPt ?? 0) - (plain?.leftPt ?? 0), 6);
    expect(inkAt(one, 5).leftPt).toBeCloseTo(62, 2);
    expect(second?.edges?.leftPt).toBeCloseTo(62, 6);
  });

  it('justifies lines between their seen edges, marks outside', () => {
    const one = block('“Look up and wait, say nothing, and look again, for hours.”', { sizePt: 60, align: 'justified' });
    const { lines } = setBlock(one, faces);
    expect(lines.length).toBeGreaterThan(1);
    for (const { edges } of lines.slice(0, -1)) {
      expect(edges?.leftPt).toBeCloseTo(50, 6);
      expect(edges?.rightPt).toBeCloseTo(950, 6);
    }
  });

  it('sees the edges of lines whatever they are aligned by', () => {
    const one = block('“Over”\nHIH', { edges: null });
    const setting = setBlock(one, faces);
    const [first, second] = seenLines(one, setting, faces);
    expect(first?.marked).toBeTrue();
    expect(second?.marked).toBeFalse();
    expect(second?.leftPt).toBeCloseTo(inkAt(one, 7).leftPt, 2);
    expect(first?.leftPt).toBeGreaterThan(setLettersOf(setting.lines[0] ?? { runs: [], leftPt: 0, widthPt: 0, visibleEnd: 0 })[1]?.leftPt ?? 0);
  });

  it('sees them where lines that are aligned by them stand, whatever the words, and an ellipsis at the end', () => {
    const texts = [
      '“Ta watch” a valley. Of falling stars, “To”',
      'שלום עולם one two “שלום”, עולם',
      'soft\u00adhyphen\u00adated “words”',
      'e\u0301te\u0301 AV\u0301A (Wave) fjord!\nnext',
    ];
    const runs = [{ start: 1, end: 4, style: { sizePt: 130, moveMilliem: 30, turnDeg: 5 } }];
    for (const words of texts) {
      for (const align of ['left', 'centre', 'right', 'justified'] as const) {
        for (const widthPt of [340, 900]) {
          const one = block(words, { align, runs, frame: { xPt: 50, yPt: 0, widthPt, heightPt: 100 } });
          const setting = setBlock(one, faces);
          seenLines(one, setting, faces).forEach((seen, i) => {
            const { edges } = setting.lines[i] ?? {};
            expect(seen?.leftPt)
              .withContext(`${words} ${align} ${i}`)
              .toBeCloseTo(edges?.leftPt ?? Number.NaN, 6);
            expect(seen?.rightPt)
              .withContext(`${words} ${align} ${i}`)
              .toBeCloseTo(edges?.rightPt ?? Number.NaN, 6);
          });
        }
      }
    }
    const cut = block('HOHO HOHO HOHO', { align: 'right', grow: 'fixed', frame: { xPt: 50, yPt: 0, widthPt: 400, heightPt: 60 } });
    const setting = setBlock(cut, faces);
    expect(setting.cut).toBeTrue();
    const right = seenLines(cut, setting, faces)[0]?.rightPt ?? 0;
    expect(right).toBeGreaterThan(430);
    expect(right).toBeLessThanOrEqual(451);
  });
});
