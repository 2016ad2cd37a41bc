import type { Block, Style } from '../job';
import { headline, shippedFaces } from '../testing';
import { type FaceSet, evenOut, evenedBy, hierarchyOf, lineGapsOf, setBlock, whiteBy } from '.';

describe('line gaps', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });
  const styled = (words: string, style: Partial<Style>, change: Partial<Block> = {}): Block => {
    const block = headline(words, change);
    return { ...block, style: { ...block.style, ...style } };
  };
  const gaps = (block: Block) => lineGapsOf(setBlock(block, faces), faces);

  it('measures the smallest clear distance between the inks', () => {
    const block = styled('HHH\nHHH', {}, { leading: { kind: 'pt', pt: 100 } });
    const [gap] = gaps(block);
    const { capHeight } = faces.instance(block.style).metrics;
    expect(gap?.clearPt).toBeCloseTo(100 - capHeight / 10, 0);
    expect(gap?.baselinePt).toBeCloseTo(100, 6);
    const [deep] = gaps(styled('gpy\nHdl', {}, { leading: { kind: 'pt', pt: 100 } }));
    expect(deep?.clearPt ?? 0).toBeLessThan((gap?.clearPt ?? 0) - 10);
  });

  it('finds inks that meet, and where', () => {
    const [gap] = gaps(styled('gggg\nHHHH', {}, { leading: { kind: 'pt', pt: 60 } }));
    expect(gap?.clearPt ?? 1).toBeLessThanOrEqual(0);
    expect(gap?.xPt).toBeGreaterThan(0);
    expect(gaps(styled('HH', {}))).toEqual([]);
    expect(gaps(styled('\n', {}))[0]?.clearPt).toBeUndefined();
  });

  it('evens the white between lines out by ink, as one edit that leads each line by itself', () => {
    const block = styled('TWO NIGHTS\nto gaze at\nA VALLEY OF\nquiet fog', {}, { leading: { kind: 'pt', pt: 110 } });
    const whites = (of: Block): number[] => gaps(of).map(({ whitePt }) => whitePt);
    const spread = (values: number[]): number => Math.max(...values) - Math.min(...values);
    expect(spread(whites(block))).toBeGreaterThan(10);
    const evened = { ...block, lineLeading: evenOut(block, gaps(block)) };
    expect(spread(whites(evened))).toBeLessThan(0.1);
    const sum = evened.lineLeading.reduce((total, { byPt }) => total + byPt, 0);
    expect(Math.abs(sum)).toBeLessThan(0.1);
    expect(evenOut(evened, gaps(evened))).toEqual(evened.lineLeading);
  });

  it('evens capitals and figures by their flat edges, from cap line to baseline, unless ink is asked for', () => {
    // Lines in two sizes, with rounds, an open top and a tail among them.
    const block = styled('OPEN\nLATE QUAY\nNOON\nTALL', {}, { leading: { kind: 'pt', pt: 110 }, runs: [{ start: 5, end: 14, style: { sizePt: 60 } }] });
    expect(evenedBy(gaps(block))).toBe('flat');
    const evened = { ...block, lineLeading: evenOut(block, gaps(block)) };
    const setting = setBlock(evened, faces);
    // Measured on an H set in each line's size, apart from what evened them.
    const instance = faces.instance(block.style);
    const capEm = instance.inkBounds(instance.nominalGlyph(0x48)!)!.yMax / instance.unitsPerEm;
    const whites = setting.lines.slice(1).map((line, i) => line.baselinePt - capEm * line.sizePt - setting.lines[i]!.baselinePt);
    for (const white of whites) expect(Math.abs(white - whites[0]!)).toBeLessThan(0.01);
    expect(evenOut(evened, gaps(evened))).toEqual(evened.lineLeading);
    const byInk = { ...block, lineLeading: evenOut(block, gaps(block), 'ink') };
    expect(byInk.lineLeading).not.toEqual(evened.lineLeading);
    const means = gaps(byInk).map((gap) => whiteBy(gap, 'ink'));
    for (const mean of means) expect(Math.abs(mean - means[0]!)).toBeLessThan(0.05);
    // One line with small letters: all are compared by ink.
    expect(evenedBy(gaps(styled('OPEN\nlate quay\nTALL', {}, { leading: { kind: 'pt', pt: 110 } })))).toBe('ink');
    expect(evenedBy(gaps(styled('OPEN', {})))).toBe('ink');
  });

  it('leads a line by itself while its letter begins a line', () => {
    const baselines = (change: Partial<Block>): number[] => setBlock(headline('one\ntwo\nthree', change), faces).lines.map((line) => line.baselinePt);
    const plain = baselines({});
    const led = baselines({ lineLeading: [{ at: 4, byPt: 7 }] });
    expect(led.map((value, i) => Math.round(value - (plain[i] ?? 0)))).toEqual([0, 7, 7]);
    expect(baselines({ lineLeading: [{ at: 5, byPt: 7 }] })).toEqual(plain);
  });

  it('scales letters across and upright, with everything between them', () => {
    const of = (style: Partial<Style>) => setBlock(styled('AVATAR', { trackingMilliem: 20, ...style }), faces).lines[0];
    const plain = of({});
    const wide = of({ scaleX: 1.5 });
    expect(wide?.widthPt).toBeCloseTo((plain?.widthPt ?? 0) * 1.5, 6);
    expect(wide?.runs[0]?.xScale).toBeCloseTo((plain?.runs[0]?.xScale ?? 0) * 1.5, 9);
    const tall = of({ scaleY: 2 });
    expect(tall?.widthPt).toBeCloseTo(plain?.widthPt ?? 0, 9);
    expect(tall?.runs[0]?.scale).toBeCloseTo((plain?.runs[0]?.scale ?? 0) * 2, 9);
  });

  it('rules words under and through by the font’s own metrics', () => {
    const line = setBlock(styled('Vega', { underline: true, strike: true }), faces).lines[0];
    const [under, through] = line?.runs[0]?.rules ?? [];
    expect(under?.yPt).toBeGreaterThan(line?.baselinePt ?? 0);
    expect(through?.yPt).toBeLessThan(line?.baselinePt ?? 0);
    expect(under?.widthPt).toBeCloseTo(line?.widthPt ?? 0, 6);
  });

  it('tells sizes that are too near to be two levels', () => {
    const levels = hierarchyOf([styled('a', { sizePt: 100 }), styled('b', { sizePt: 90 }), styled('c', { sizePt: 40 }), styled('d', { sizePt: 40 })]);
    expect(levels.map(({ sizePt, close }) => [sizePt, close])).toEqual([
      [100, true],
      [90, false],
      [40, false],
    ]);
    expect(levels[1]?.ratio).toBeCloseTo(2.25, 6);
  });
});
