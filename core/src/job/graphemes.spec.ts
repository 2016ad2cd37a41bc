import fc from 'fast-check';
import { graphemeBoundaries, isGraphemeBoundary } from './graphemes';

describe('graphemes', () => {
  const segmenter = new Intl.Segmenter('und', { granularity: 'grapheme' });
  const told = (text: string): number[] => [...segmenter.segment(text)].map(({ index }) => index).slice(1);

  it('are cut where the Unicode rules cut them, in plain and in other words', () => {
    const plain = fc.string({ unit: fc.integer({ min: 1, max: 0x2ff }).map((code) => String.fromCodePoint(code)) });
    const parts = fc.constantFrom('a', 'é', 'e\u0301', '\r', '\n', '\r\n', '\u00ad', '\u200d', '©', '👩\u200d🚀', '한', 'नि', ' ');
    const mixed = fc.array(parts).map((all) => all.join(''));
    fc.assert(fc.property(fc.oneof(plain, mixed, fc.string({ unit: 'binary' })), (text) => expect(graphemeBoundaries(text)).toEqual(told(text))));
  });

  it('tells a place between two of them from one within', () => {
    const places = [0, 1, 2, 3];
    expect(places.map((at) => isGraphemeBoundary('ae\u0301', at))).toEqual([true, true, false, true]);
  });
});
