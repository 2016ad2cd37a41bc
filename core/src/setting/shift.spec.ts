import { type Block, type Run, createSheet } from '../job';
import { drawSheet } from '../drawing';
import { writeSvg } from '../formats';
import { snapLines } from '../placing';
import { headline, shippedFaces } from '../testing';
import {
  type FaceSet,
  type SetLine,
  baselinesOf,
  gapsOf,
  inkOf,
  inkOfGlyph,
  ledgersOf,
  setLettersOf,
  lineGapsOf,
  lineUnder,
  setBlock,
  stretchesOf,
} from './index';

describe('shift stage', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });
  /** Letters in the middle of a word, 100 pt, raised by 300/1000 em: 30 pt. */
  const raised = (words: string, start: number, end: number, more: Partial<Run['style']> = {}): Block =>
    headline(words, { runs: [{ start, end, style: { baselineShiftMilliem: 300, ...more } }] });
  const lineOf = (block: Block): SetLine => {
    const [line] = setBlock(block, faces).lines;
    if (!line) throw new Error('no line');
    return line;
  };
  const svgOf = (block: Block, letters: 'outlines' | 'text'): string => {
    const sheet = { ...createSheet('s', 'Sheet', 900, 300, 'pt'), blocks: [{ ...block, frame: { xPt: 20, yPt: 60, widthPt: 800, heightPt: 100 } }] };
    return writeSvg(
      drawSheet(
        sheet,
        sheet.blocks.map((one) => setBlock(one, faces)),
      ),
      faces,
      { letters },
    );
  };

  it('moves letters up without moving them along, nor lines or frame', () => {
    const [plain, up] = [headline('VALLEY'), raised('VALLEY', 2, 4)];
    expect(lineOf(up).runs.flatMap(({ glyphs }) => glyphs.map(({ xPt }) => xPt))).toEqual(
      lineOf(plain).runs.flatMap(({ glyphs }) => glyphs.map(({ xPt }) => xPt)),
    );
    expect(setBlock(up, faces).frame).toEqual(setBlock(plain, faces).frame);
    expect(lineOf(up).baselinePt).toBe(lineOf(plain).baselinePt);
    expect(lineOf(up).runs[1]?.glyphs.map(({ shift }) => shift?.f)).toEqual([-30, -30]);
  });

  it('is obeyed by ink, by the white between lines and by rules', () => {
    const [plain, up] = [inkOf(setBlock(headline('HHHH'), faces), faces), inkOf(setBlock(raised('HHHH', 2, 3), faces), faces)];
    expect((plain?.topPt ?? 0) - (up?.topPt ?? 0)).toBeCloseTo(30, 6);
    expect(up?.bottomPt).toBeCloseTo(plain?.bottomPt ?? 0, 6);
    const clear = (block: Block): number => lineGapsOf(setBlock(block, faces), faces)[0]?.clearPt ?? Number.NaN;
    expect(clear(headline('HHH\nHHH')) - clear(raised('HHH\nHHH', 4, 7))).toBeCloseTo(30, 6);
    const under = lineOf(raised('VALLEY', 2, 4, { underline: true })).runs[1]?.rules[0]?.yPt ?? 0;
    const level = lineOf(headline('VALLEY', { runs: [{ start: 2, end: 4, style: { underline: true } }] })).runs[1]?.rules[0]?.yPt ?? 0;
    expect(level - under).toBeCloseTo(30, 6);
  });

  it('is obeyed by outlines and by live text', () => {
    const ys = (svg: string): number[] => [...svg.matchAll(/<path d="M[-\d.]+,([-\d.]+)/g)].map(([, y]) => Number(y));
    const [plain, up] = [ys(svgOf(headline('VALLEY'), 'outlines')), ys(svgOf(raised('VALLEY', 2, 4), 'outlines'))];
    expect(plain.map((y, i) => Math.round(y - (up[i] ?? 0)))).toEqual([0, 0, 30, 30, 0, 0]);
    const texts = [...svgOf(raised('VALLEY', 2, 4), 'text').matchAll(/<text y="([-\d.]+)"[^>]*>(.*?)<\/text>/g)].map(
      ([, y, body = '']) => [Number(y), body.replace(/<[^>]*>/g, '')] as const,
    );
    expect(texts.map(([, words]) => words)).toEqual(['VA', 'LL', 'EY']);
    expect((texts[0]?.[0] ?? 0) - (texts[1]?.[0] ?? 0)).toBeCloseTo(30, 4);
    expect(texts[2]?.[0]).toBe(texts[0]?.[0] ?? 0);
  });

  it('is obeyed by what a gap measures: letters are seen at the heights they stand at', () => {
    const gap = (block: Block) => ledgersOf(block, lineOf(block), faces)[0];
    const [level, up] = [gap(headline('TA')), gap(headline('TA', { runs: [{ start: 1, end: 2, style: { baselineShiftMilliem: 500 } }] }))];
    expect(up?.fontMilliem).toBe(level?.fontMilliem ?? 0);
    expect(up?.whiteMilliem).not.toBe(level?.whiteMilliem ?? 0);
    expect(up?.distancePt).not.toBe(level?.distancePt);
  });

  it('is obeyed by clicks and selections', () => {
    const block = raised('VALLEY', 2, 4);
    const line = lineOf(block);
    const middle = (at: number): number => {
      const letter = setLettersOf(line).find(({ start }) => start === at);
      return ((letter?.leftPt ?? 0) + (letter?.rightPt ?? 0)) / 2;
    };
    // High above the line: only a letter that is raised is there.
    const high = line.baselinePt - 110;
    expect(lineUnder({ lines: [line] }, { xPt: middle(2), yPt: high })?.xPt).toBeCloseTo(middle(2), 6);
    expect(lineUnder({ lines: [line] }, { xPt: middle(0), yPt: high })).toBeUndefined();
    expect(lineUnder({ lines: [line] }, { xPt: middle(0), yPt: line.baselinePt - 10 })?.line).toBe(line);
    expect(stretchesOf(line, { start: 1, end: 5 }).map(({ shift }) => shift?.f)).toEqual([undefined, -30, undefined]);
    expect(gapsOf(line).length).toBe(5);
  });

  it('is obeyed by what things snap to: letters that are raised bring a baseline of their own', () => {
    const block = raised('VALLEY', 2, 4);
    const line = lineOf(block);
    expect(baselinesOf(line)).toEqual([line.baselinePt, line.baselinePt - 30]);
    expect(baselinesOf(lineOf(headline('VALLEY')))).toEqual([line.baselinePt]);
    const sheet = createSheet('s', 'Sheet', 900, 300, 'pt');
    const baselines = snapLines(sheet, [setBlock(block, faces)]).filter(({ kind }) => kind === 'baseline');
    expect(baselines.map(({ atPt }) => atPt)).toEqual([line.baselinePt, line.baselinePt - 30]);
  });

  it('moves letters along the line, turns them where they stand and scales them from a middle; the others stay', () => {
    const styled = (style: Partial<Run['style']>): SetLine => lineOf(headline('VALLEY', { runs: [{ start: 2, end: 3, style }] }));
    const plain = lineOf(headline('VALLEY'));
    const xs = (line: SetLine): number[] => line.runs.flatMap(({ glyphs }) => glyphs.map(({ xPt }) => xPt));
    const box = (line: SetLine, at = 2) => {
      const run = line.runs.find(({ glyphs }) => glyphs.some(({ cluster }) => cluster === at))!;
      return inkOfGlyph(
        run.glyphs.find(({ cluster }) => cluster === at)!,
        run,
        faces.instance(run.style),
      )!;
    };
    const was = box(plain);
    for (const style of [{ moveMilliem: 120 }, { turnDeg: 30 }, { turnDeg: -8, moveMilliem: -40 }] as const) {
      const line = styled(style);
      expect(xs(line)).withContext(JSON.stringify(style)).toEqual(xs(plain));
      for (const at of [0, 1, 3, 4, 5]) expect(box(line, at)).toEqual(box(plain, at));
    }
    const moved = box(styled({ moveMilliem: 120 }));
    expect([moved.leftPt - was.leftPt, moved.rightPt - was.rightPt, moved.topPt - was.topPt].map((x) => Math.round(x * 1e6) / 1e6)).toEqual([12, 12, 0]);
    // A quarter turn lays a letter on its side, around the middle of its room; four of them bring it back.
    const { glyphs } = styled({ turnDeg: 90 }).runs[1]!;
    const shift = glyphs[0]!.shift!;
    expect([shift.a, shift.b, shift.c, shift.d].map((x) => Math.round(x * 1e9) / 1e9)).toEqual([0, 1, -1, 0]);
    const on = box(styled({ turnDeg: 90 }));
    expect(on.rightPt - on.leftPt).toBeCloseTo(was.bottomPt - was.topPt, 6);
    const middle = (one: typeof was): number => (one.topPt + one.bottomPt) / 2;
    expect(box(styled({ turnDeg: 360 })).leftPt).toBeCloseTo(was.leftPt, 6);
    const capitals = styled({ scaleY: 1.5, scaleFrom: 'capitals' });
    const below = (one: SetLine): number => middle(box(one)) - one.baselinePt;
    expect(below(capitals)).toBeCloseTo(below(plain), 1);
    const tall = styled({ scaleY: 1.5 });
    expect(box(tall).bottomPt - tall.baselinePt).toBeCloseTo(was.bottomPt - plain.baselinePt, 6);
    // Turned letters of one cluster go together, raised and moved as well.
    const all = styled({ turnDeg: 20, moveMilliem: 50, baselineShiftMilliem: 100 }).runs[1]!.glyphs[0]!.shift!;
    const alone = styled({ turnDeg: 20 }).runs[1]!.glyphs[0]!.shift!;
    expect([all.e - alone.e, all.f - alone.f].map((x) => Math.round(x * 1e6) / 1e6)).toEqual([5, -10]);
  });

  it('hangs larger letters from the cap line or stands them on the baseline, and their gaps are measured as they are', () => {
    const larger = (scaleFrom: 'baseline' | 'cap line' | 'capitals', kerning: 'font' | 'shape' = 'font'): Block =>
      headline('THE', { style: { ...headline('').style, kerning }, runs: [{ start: 0, end: 1, style: { scaleX: 1.5, scaleY: 1.5, scaleFrom } }] });
    const ends = (block: Block): [number, number] => {
      const line = lineOf(block);
      const {
        glyphs: [glyph],
        ...run
      } = { ...line.runs[0]! };
      const ink = inkOfGlyph(glyph!, run, faces.instance(run.style))!;
      return [line.baselinePt - ink.topPt, line.baselinePt - ink.bottomPt];
    };
    const [capLine] = ends(headline('THE'));
    expect(ends(larger('baseline'))[0]).toBeCloseTo(1.5 * capLine, 0);
    expect(ends(larger('baseline'))[1]).toBeCloseTo(0, 1);
    expect(ends(larger('cap line'))[0]).toBeCloseTo(capLine, 0);
    expect(ends(larger('capitals')).reduce((sum, y) => sum + y, 0)).toBeCloseTo(capLine, 0);
    // The bar of a T that hangs low meets what stands beside it elsewhere.
    const [hung, stood, even] = [
      larger('cap line', 'shape'),
      larger('baseline', 'shape'),
      headline('THE', { style: { ...headline('').style, kerning: 'shape' } }),
    ].map((block) => ledgersOf(block, lineOf(block), faces)[0]!);
    expect(new Set([hung?.whiteMilliem, stood?.whiteMilliem, even?.whiteMilliem]).size).toBe(3);
    expect([hung, stood].every((gap) => (gap?.distancePt ?? 0) > 0)).toBeTrue();
  });

  it('is obeyed by gaps: a turned letter is measured as it stands, one that is moved comes nearer', () => {
    const gap = (style: Partial<Run['style']>, at = 0) =>
      ledgersOf(headline('HHH', { runs: [{ start: 1, end: 2, style }] }), lineOf(headline('HHH', { runs: [{ start: 1, end: 2, style }] })), faces)[at]!;
    const plain = gap({});
    expect((plain.distancePt ?? 0) - (gap({ moveMilliem: -30 }).distancePt ?? 0)).toBeCloseTo(3, 1);
    expect((gap({ moveMilliem: -30 }, 1).distancePt ?? 0) - (plain.distancePt ?? 0)).toBeCloseTo(3, 1);
    // What is moved is wished for: no proposal takes it back.
    expect(gap({ moveMilliem: -30 }).shapeMilliem).toBe(plain.shapeMilliem);
    expect(gap({ turnDeg: 10 }).whiteMilliem).not.toBe(plain.whiteMilliem);
    expect(gap({ turnDeg: 10 }).distancePt).toBeLessThan(plain.distancePt ?? 0);
    expect(gap({ turnDeg: 10 }).fontMilliem).toBe(plain.fontMilliem);
  });

  it('turned letters are drawn, measured and hit where they are', () => {
    const line = lineOf(headline('HI'));
    const shift = { a: 0, b: 1, c: -1, d: 0, e: 300, f: 0 };
    const turned: SetLine = { ...line, runs: line.runs.map((run) => ({ ...run, glyphs: run.glyphs.map((glyph) => ({ ...glyph, shift })) })) };
    const [flat, stood] = [inkOf({ lines: [line] }, faces), inkOf({ lines: [turned] }, faces)];
    if (!flat || !stood) throw new Error('no ink');
    expect(stood.bottomPt - stood.topPt).toBeCloseTo(flat.rightPt - flat.leftPt, 6);
    expect(stood.rightPt).toBeCloseTo(300 - flat.topPt, 6);
    expect(lineUnder({ lines: [turned] }, { xPt: 300 - (flat.topPt + flat.bottomPt) / 2, yPt: (flat.leftPt + flat.rightPt) / 2 })?.line).toBe(turned);
    const sheet = { ...createSheet('s', 'Sheet', 900, 300, 'pt'), blocks: [headline('HI')] };
    const drawing = drawSheet(sheet, [{ ...setBlock(headline('HI'), faces), lines: [turned] }]);
    // Each letter has its place and its turn; what is scaled as well is turned as a whole.
    expect(writeSvg(drawing, faces, { letters: 'text' })).toMatch(/<tspan x="[\d.]+ [\d.]+" y="[\d.]+ [\d.]+" rotate="90 90">HI</);
    const wide = { ...turned, runs: turned.runs.map((run) => ({ ...run, xScale: run.xScale * 2 })) };
    expect(writeSvg(drawSheet(sheet, [{ ...setBlock(headline('HI'), faces), lines: [wide] }]), faces, { letters: 'text' })).toContain(
      'transform="matrix(0 2 -1 0 0 0)"',
    );
    expect(writeSvg(drawing, faces, { letters: 'outlines' })).toContain('<path');
  });
});
