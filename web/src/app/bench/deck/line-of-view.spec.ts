import { createBlock } from '@jentrix/core/job';
import type { SetLine } from '@jentrix/core/setting';
import { lettersOnly, loneLine } from './line-of-view';

const style = createBlock('x', '', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }).style;
const line = (words: string, start = 0): SetLine => ({
  start,
  end: start + words.length,
  visibleEnd: start + words.length,
  leftPt: 5,
  widthPt: words.length * 10,
  baselinePt: 20,
  leadingPt: 12,
  sizePt: 10,
  runs: [
    {
      start,
      end: start + words.length,
      style,
      scale: 1,
      xScale: 1,
      rules: [],
      glyphs: [...words].map((_, i) => ({ glyphId: 1, cluster: start + i, xPt: 5 + i * 10, yPt: 20, offsetPt: 0 })),
    },
  ],
});

describe('lines of a view', () => {
  it('keep some letters as far apart as they stand', () => {
    const three = lettersOnly(line('VALLEY'), new Set([1, 2, 3]));
    expect([three.leftPt, three.widthPt]).toEqual([15, 30]);
    expect(three.runs[0]?.glyphs.map(({ cluster }) => cluster)).toEqual([1, 2, 3]);
    const last = lettersOnly(line('VALLEY'), new Set([5]));
    expect(last.leftPt + last.widthPt).toBe(65);
    expect(lettersOnly(line('VALLEY'), new Set()).runs).toEqual([]);
  });

  it('stand alone with their hand kerning and styles', () => {
    const block = {
      ...createBlock('b', 'A VALLEY\nOF STARS', { xPt: 0, yPt: 0, widthPt: 100, heightPt: 10 }),
      hand: [
        { at: 3, milliem: 1 },
        { at: 13, milliem: -7 },
      ],
      align: 'right' as const,
    };
    const alone = loneLine(block, line('OF STARS', 9), 'alone');
    expect([alone.words, alone.align, alone.hand]).toEqual(['OF STARS', 'left', [{ at: 4, milliem: -7 }]]);
  });
});
