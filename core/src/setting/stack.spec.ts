import { PLAIN_PARAGRAPH } from '../job';
import { headline, shippedFaces } from '../testing';
import { indentOf } from './align';
import type { FaceSet } from './faces';
import { grownFrame, shownLines, stack, topOf } from './stack';

describe('align and stack stages', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });
  const block = headline('', { leading: { kind: 'pt', pt: 120 }, frame: { xPt: 10, yPt: 20, widthPt: 300, heightPt: 400 } });
  const { style } = block;

  it('begins lines where their alignment says', () => {
    expect(['left', 'centre', 'right', 'justified'].map((align) => indentOf(align as 'left', 100, 60))).toEqual([0, 20, 40, 0]);
    expect(indentOf('right', 50, 60)).toBe(-10);
  });

  it('stacks by leading, a paragraph’s space and a line’s own', () => {
    const lines = [
      { start: 0, first: true, styles: [style] },
      { start: 5, first: false, styles: [style, { ...style, sizePt: 300 }] },
      { start: 9, first: true, styles: [style] },
    ];
    const own = { ...block, lineLeading: [{ at: 5, byPt: 7 }], paragraph: { ...PLAIN_PARAGRAPH, beforePt: 3, afterPt: 4 } };
    const { metrics, unitsPerEm } = faces.instance(style);
    const ascent = (metrics.ascender * style.sizePt) / unitsPerEm;
    const stacked = stack(own, lines, faces);
    expect(stacked.map(({ baseline }) => Number((baseline - ascent).toFixed(6)))).toEqual([0, 127, 254]);
    expect(stacked.map(({ sizePt }) => sizePt)).toEqual([100, 300, 100]);
    const trimmed = stack({ ...own, trim: true }, lines, faces);
    expect(trimmed[0]?.baseline).toBeCloseTo((metrics.capHeight * style.sizePt) / unitsPerEm, 9);
    expect(trimmed[2]?.bottom).toBe(trimmed[2]?.baseline ?? 0);
  });

  it('shows what a fixed frame holds, one line at least', () => {
    const lines = [100, 220, 340].map((bottom) => ({ baseline: 0, leadingPt: 0, sizePt: 0, bottom }));
    const high = (heightPt: number) => shownLines({ ...block, grow: 'fixed', frame: { ...block.frame, heightPt } }, lines);
    expect([high(400), high(339), high(50)]).toEqual([3, 2, 1]);
    expect(shownLines({ ...block, frame: { ...block.frame, heightPt: 50 } }, lines)).toBe(3);
  });

  it('grows frames from the side the lines align to, and stands words in the room that is left', () => {
    const contents = { heightPt: 90, widthPt: 100 };
    expect(grownFrame({ ...block, grow: 'down' }, contents)).toEqual({ xPt: 10, yPt: 20, widthPt: 300, heightPt: 90 });
    expect(grownFrame({ ...block, grow: 'fixed' }, contents)).toBe(block.frame);
    const both = (align: 'left' | 'centre' | 'right') => grownFrame({ ...block, grow: 'both', align }, contents).xPt;
    expect([both('left'), both('centre'), both('right')]).toEqual([10, 110, 210]);
    const top = (vertical: 'top' | 'middle' | 'bottom') => topOf({ ...block, grow: 'fixed', vertical }, block.frame, 100);
    expect([top('top'), top('middle'), top('bottom')]).toEqual([20, 170, 320]);
  });
});
