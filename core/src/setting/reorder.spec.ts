import { headline, shippedFaces } from '../testing';
import { directionsOf } from './levels';
import { inVisualOrder } from './reorder';
import { type FaceSet, gapsOf, ledgersOf, setBlock } from '.';

describe('words that run to the left', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
  });
  const backwards = (word: string): string => [...word].reverse().join('');
  /** The words of every line as they stand, from left to right. */
  const standing = (words: string, widthPt = 5000): string[] =>
    setBlock(headline(words, { frame: { xPt: 0, yPt: 0, widthPt, heightPt: 100 } }), faces).lines.map((line) =>
      line.runs
        .flatMap(({ glyphs }) => glyphs)
        .map(({ cluster }) => String.fromCodePoint(words.codePointAt(cluster) ?? 0))
        .join(''),
    );

  it('stand by the rules of the bidirectional algorithm', () => {
    // A line in Latin: only the Hebrew word turns round, and a figure that follows stands with it.
    expect(standing('Vega שלום 12')).toEqual([`Vega 12 ${backwards('שלום')}`]);
    // A line in Hebrew begins at the right; Latin words and figures keep their own order inside it.
    expect(standing('שלום Vega')).toEqual([`Vega ${backwards('שלום')}`]);
    expect(standing('שלום 12 Vega טוב')).toEqual([`${backwards('טוב')} Vega 12 ${backwards('שלום')}`]);
    expect(standing('Vega')).toEqual(['Vega']);
  });

  it('are ordered line by line', () => {
    const words = 'שלום Vega טוב Altair';
    const [whole = ''] = standing(words);
    expect(whole.startsWith('Altair')).toBeTrue();
    const lines = standing(words, 420);
    expect(lines.length).toBeGreaterThan(1);
    expect(lines.map((line) => [...line.replaceAll(' ', '')].length).reduce((sum, count) => sum + count, 0)).toBe([...words.replaceAll(' ', '')].length);
    expect(lines[0]?.endsWith(backwards('שלום'))).toBeTrue();
  });

  it('show brackets as the direction wants them', () => {
    const block = headline('(שלום)');
    const line = setBlock(block, faces).lines[0];
    const instance = faces.instance(block.style);
    const glyphs = line?.runs.flatMap((run) => run.glyphs.map(({ glyphId }) => glyphId)) ?? [];
    expect([glyphs[0], glyphs[glyphs.length - 1]]).toEqual([instance.nominalGlyph(0x28), instance.nominalGlyph(0x29)]);
  });

  it('have a ledger for every gap', () => {
    for (const words of ['שלום Vega 12', 'AV שלום To']) {
      const block = headline(words);
      const line = setBlock(block, faces).lines[0]!;
      expect(ledgersOf(block, line, faces).length).toBe(gapsOf(line).length);
    }
  });

  it('cost nothing where there are none', () => {
    expect(directionsOf('Two nights', { start: 0, end: 10 }).levels).toBeUndefined();
    const runs = [{ level: 0 }, { level: 0 }];
    expect(inVisualOrder(runs)).toBe(runs);
  });

  it('are reversed level by level, highest first', () => {
    const runs = [1, 2, 1, 0, 1, 1].map((level, i) => ({ level, i }));
    expect(inVisualOrder(runs).map(({ i }) => i)).toEqual([2, 1, 0, 3, 5, 4]);
    const nested = [1, 2, 2, 1].map((level, i) => ({ level, i }));
    expect(inVisualOrder(nested).map(({ i }) => i)).toEqual([3, 1, 2, 0]);
  });
});
