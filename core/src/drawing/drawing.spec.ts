import { createSheet } from '../job';
import { FaceSet, setBlock, setSheet } from '../setting';
import { headline, shippedFaces } from '../testing';
import { type DrawingNode, type SheetDrawing, drawLine, drawSheet } from '.';
import { pageOf } from './page';

describe('a drawing', () => {
  const sheetWith = (background: object): SheetDrawing => {
    const sheet = { ...createSheet('s', 'Sheet', 600, 300, 'pt'), background } as never;
    return drawSheet(sheet, setSheet(sheet, new FaceSet('none')));
  };
  /** The pictures in a page's background. */
  const picturesOf = (nodes: readonly DrawingNode[]): DrawingNode[] =>
    nodes.flatMap((node) => (node.kind === 'group' ? picturesOf(node.nodes) : node.kind === 'picture' ? [node] : []));

  it('lets a picture that covers the sheet bleed over all its edges, and one that fits into it stay as large as it is seen', () => {
    const page = (fit: 'cover' | 'contain', bleedPt: number) =>
      picturesOf(pageOf(sheetWith({ kind: 'picture', pictureId: 'p', fit, colour: '#ffffff' }), { bleedPt, marks: true }).ground)[0];
    const sheet = { leftPt: 0, topPt: 0, rightPt: 600, bottomPt: 300 };
    expect(page('cover', 9)).toEqual({ kind: 'picture', pictureId: 'p', fit: 'cover', box: { leftPt: -9, topPt: -9, rightPt: 609, bottomPt: 309 } });
    expect(page('cover', 0)).toEqual({ kind: 'picture', pictureId: 'p', fit: 'cover', box: sheet });
    expect(page('contain', 9)).toEqual({ kind: 'picture', pictureId: 'p', fit: 'contain', box: sheet });
  });

  it('draws a line anew where anything that it looks like has changed, and only then', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    const plain = headline('VA');
    const block = { ...plain, style: { ...plain.style, gradient: { to: '#ff0000', angleDeg: 0 } } };
    const [line] = setBlock(block, faces).lines;
    if (!line) throw new Error('No line');
    const look = { words: 'VA', frame: { xPt: 0, yPt: 0, widthPt: 400, heightPt: 100 } };
    const first = drawLine(line, look);
    expect(drawLine(line, { ...look, frame: { ...look.frame } })).toBe(first);
    for (const change of [{ xPt: 5 }, { yPt: 5 }, { widthPt: 200 }, { heightPt: 50 }]) {
      drawLine(line, look);
      const other = drawLine(line, { ...look, frame: { ...look.frame, ...change } });
      // The gradient runs over the whole frame.
      expect(other).withContext(JSON.stringify(change)).not.toEqual(first);
    }
    drawLine(line, look);
    expect(drawLine(line, { ...look, colour: '#00ff00' })).not.toEqual(first);
    drawLine(line, look);
    expect(drawLine(line, { ...look, language: 'tr' })).not.toBe(first);
  });
});
