import { createSheet } from '@jentrix/core/job';
import { dataUrl, pixelsOf, wholeSheet } from './sheet-pixels';

describe('pixels of a sheet', () => {
  const sheet = createSheet('s', 'Sheet', 200, 100, 'pt');
  /** Left half red, right half blue. */
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="200pt" height="100pt" viewBox="0 0 200 100">' +
    '<rect width="100" height="100" fill="#ff0000"/><rect x="100" width="100" height="100" fill="#0000ff"/></svg>';
  const at = ({ data, width }: ImageData, x: number, y: number): number[] => [...data.slice(4 * (y * width + x), 4 * (y * width + x) + 4)];

  it('are drawn to the longest side asked for', async () => {
    const [whole] = await pixelsOf(svg, sheet, [wholeSheet(sheet)], 80);
    expect([whole?.width, whole?.height]).toEqual([80, 40]);
    expect(at(whole!, 10, 20)).toEqual([255, 0, 0, 255]);
    expect(at(whole!, 70, 20)).toEqual([0, 0, 255, 255]);
  });

  it('show a part, transparent beyond the sheet', async () => {
    const [part] = await pixelsOf(svg, sheet, [{ box: { leftPt: -50, topPt: 20, rightPt: 50, bottomPt: 60 } }], 100);
    expect([part?.width, part?.height]).toEqual([100, 40]);
    expect(at(part!, 20, 10)[3]).toBe(0);
    expect(at(part!, 80, 10)).toEqual([255, 0, 0, 255]);
  });

  it('show a part as its turned block sees it', async () => {
    // A frame in the middle, turned by a quarter: its top looks to the right, to the blue half.
    const frame = { xPt: 80, yPt: 30, widthPt: 40, heightPt: 40 };
    const box = { leftPt: 80, topPt: 30, rightPt: 120, bottomPt: 70 };
    const [level, turned] = await pixelsOf(
      svg,
      sheet,
      [
        { box, turn: { degrees: 0, frame } },
        { box, turn: { degrees: 90, frame } },
      ],
      40,
    );
    expect([at(level!, 5, 20), at(level!, 35, 20)]).toEqual([
      [255, 0, 0, 255],
      [0, 0, 255, 255],
    ]);
    expect([at(turned!, 20, 5), at(turned!, 20, 35)]).toEqual([
      [0, 0, 255, 255],
      [255, 0, 0, 255],
    ]);
  });

  it('are refused for what is no SVG', async () => {
    await expectAsync(pixelsOf('<svg', sheet, [wholeSheet(sheet)], 80)).toBeRejected();
  });

  it('hold files as data addresses', async () => {
    const url = URL.createObjectURL(new Blob(['abc'], { type: 'text/plain' }));
    expect(await dataUrl(url)).toBe('data:text/plain;base64,YWJj');
    URL.revokeObjectURL(url);
  });
});
