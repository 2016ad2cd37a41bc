import { type Block, type Ends } from '../job';
import { headline, shippedFaces } from '../testing';
import { type FaceSet, inkOf, ledgersOf, setBlock } from './index';

describe('larger end letters', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });
  const ended = (words: string, ends: Partial<Ends> = {}, more: Partial<Block> = {}): Block =>
    headline(words, { ends: { of: 'words', which: 'both', ratio: 1.3, align: 'foot', ...ends }, ...more });
  /** Height of each letter's ink over its unscaled one, by letter. */
  const scales = (block: Block): string =>
    setBlock(block, faces)
      .lines.flatMap(({ runs }) => runs.flatMap(({ glyphs, style }) => glyphs.map(({ cluster }) => ({ letter: block.words[cluster]!, scale: style.scaleY }))))
      .filter(({ scale }) => scale !== 1)
      .map(({ letter }) => letter)
      .join('');
  const boxOf = (block: Block, at: number) => {
    const set = setBlock(block, faces);
    const runs = set.lines[0]!.runs.map((run) => ({ ...run, glyphs: run.glyphs.filter(({ cluster }) => cluster === at) }));
    return inkOf({ lines: [{ ...set.lines[0]!, runs }] }, faces)!;
  };

  it('are the first, the last or both of words or lines, whatever marks stand beside them', () => {
    expect(scales(ended('TWO NIGHTS'))).toBe('TONS');
    expect(scales(ended('TWO NIGHTS', { which: 'first' }))).toBe('TN');
    expect(scales(ended('TWO NIGHTS', { which: 'last' }))).toBe('OS');
    expect(scales(ended('“TWO NIGHTS!”\nA', { of: 'lines' }))).toBe('TSA');
    const narrow = ended('TWO NIGHTS', { of: 'lines' }, { frame: { xPt: 0, yPt: 0, widthPt: 420, heightPt: 100 } });
    expect(scales(narrow)).toBe('TONS');
  });

  it('stand on the feet, the middles or the tops of the others, which stay as they are', () => {
    const plain = boxOf(headline('HHHH'), 1);
    for (const align of ['foot', 'middle', 'top'] as const) {
      const block = ended('HHHH', { align });
      const [large, small] = [boxOf(block, 0), boxOf(block, 1)];
      expect(small.bottomPt - small.topPt).toBeCloseTo(plain.bottomPt - plain.topPt, 6);
      expect(small.bottomPt).toBeCloseTo(plain.bottomPt, 6);
      expect((large.bottomPt - large.topPt) / (small.bottomPt - small.topPt)).toBeCloseTo(1.3, 6);
      const level = {
        foot: large.bottomPt - small.bottomPt,
        top: large.topPt - small.topPt,
        middle: large.topPt + large.bottomPt - small.topPt - small.bottomPt,
      };
      expect(level[align]).toBeCloseTo(0, 4);
    }
    const [one, other] = [headline('HHHH\nHH'), ended('HHHH\nHH')].map((block) => setBlock(block, faces).lines.map(({ baselinePt }) => baselinePt));
    expect(other).toEqual(one);
  });

  it('have their gaps by measured white, hand values on top, and are gone when they are taken off', () => {
    const block = ended('AVAVA', {}, { hand: [{ at: 1, milliem: 25 }] });
    const [line] = setBlock(block, faces).lines;
    const ledgers = ledgersOf(block, line!, faces);
    expect(ledgers.map(({ source }) => source)).toEqual(['shape', 'font', 'font', 'shape']);
    expect(ledgers[0]?.totalMilliem).toBeCloseTo((ledgers[0]?.shapeMilliem ?? 0) + 25, 6);
    expect(ledgers[0]?.shapeMilliem).toBeLessThan(-20);
    expect(setBlock({ ...block, ends: null }, faces)).toEqual(setBlock(headline('AVAVA', { hand: block.hand }), faces));
  });
});
