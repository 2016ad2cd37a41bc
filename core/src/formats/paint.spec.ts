import { createSheet } from '../job';
import { type Block, type Style } from '../job';
import { type FaceSet, setBlock, setSheet } from '../setting';
import { coloursOf, contrastNeeded, contrastOver } from '../advice';
import { headline, shippedFaces } from '../testing';
import { type Gradient, type LettersNode, drawBlock, drawSheet, gradientLine } from '../drawing';
import { writeSvg } from '.';

describe('paint', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });
  const styled = (style: Partial<Style>, change: Partial<Block> = {}): Block => {
    const block = headline('VA', { frame: { xPt: 10, yPt: 20, widthPt: 400, heightPt: 200 }, ...change });
    return { ...block, style: { ...block.style, ...style } };
  };
  const svgOf = (block: Block): string => {
    const sheet = { ...createSheet('s', 'Sheet', 500, 300, 'pt'), blocks: [block] };
    return writeSvg(drawSheet(sheet, setSheet(sheet, faces)), faces, { letters: 'outlines' });
  };

  it('runs a gradient over the frame as CSS does', () => {
    const down = gradientLine(200, 100, 180);
    expect([down.y1, down.y2].map((value) => Math.abs(Math.round(value)))).toEqual([0, 100]);
    const right = gradientLine(200, 100, 90);
    expect([right.x1, right.x2].map(Math.round)).toEqual([0, 200]);
    const block = styled({ gradient: { to: '#0000ff', angleDeg: 180 } }, { grow: 'fixed' });
    const letters = drawBlock(block, setBlock(block, faces)).nodes[0] as LettersNode;
    expect(letters.fill).toEqual(jasmine.objectContaining({ from: block.style.colour, to: '#0000ff' }));
    const { y1, y2 } = letters.fill as Gradient;
    expect([y1, y2].map(Math.round)).toEqual([20, 220]);
    expect(svgOf(styled({ gradient: { to: '#0000ff', angleDeg: 180 } }))).toContain('fill="url(#fill-b-0)"');
  });

  it('writes opacity, outline, shadow, rules, scale and rotation', () => {
    const svg = svgOf(
      styled(
        {
          opacity: 0.5,
          outline: { milliem: 30, colour: '#ff0000', join: 'round' },
          shadow: { xMilliem: 20, yMilliem: 40, blurMilliem: 60, colour: '#000000' },
          underline: true,
          scaleX: 2,
        },
        { rotationDeg: 15 },
      ),
    );
    expect(svg).toContain('opacity="0.5"');
    expect(svg).toContain('stroke="#ff0000" stroke-width="3" stroke-linejoin="round"');
    expect(svg).toContain('translate(2 4)');
    expect(svg).toContain('stdDeviation="3"');
    expect((svg.match(/<rect /g) ?? []).length).toBe(3); // ground, the underline and its shadow
    expect(svg).toContain('rotate(15 ');
  });

  it('measures contrast over the pixels behind, and takes colours from them', () => {
    const pixels = Array.from({ length: 400 }, (_, i) => (i % 4 === 3 ? 255 : i < 80 ? 240 : 10));
    const over = contrastOver(['#ffffff'], pixels);
    expect(over?.worst ?? 99).toBeLessThan(1.5);
    expect(over?.mean ?? 0).toBeGreaterThan(10);
    expect(contrastOver(['#ffffff'], [])).toBeUndefined();
    // Beyond the sheet there is nothing; the worse end of a gradient counts; what shines through lowers the contrast.
    expect(contrastOver(['#ffffff'], [0, 0, 0, 0, 0, 0, 0, 255])?.mean).toBeCloseTo(21, 6);
    expect(contrastOver(['#ffffff'], [9, 9, 9, 0])).toBeUndefined();
    expect(contrastOver(['#ffffff', '#000000'], [0, 0, 0, 255])?.worst).toBeCloseTo(1, 6);
    const half = contrastOver(['#ffffff'], [0, 0, 0, 255], 0.5)?.worst ?? 0;
    expect(half).toBeCloseTo(contrastOver(['#808080'], [0, 0, 0, 255])?.worst ?? 0, 1);
    expect(contrastOver(['#ffffff'], [0, 0, 0, 255], 0)?.worst).toBeCloseTo(1, 6);
    expect([contrastNeeded(12, 900), contrastNeeded(18, 400), contrastNeeded(14, 600), contrastNeeded(14, 700)]).toEqual([4.5, 3, 4.5, 3]);
    expect(coloursOf(pixels, 4)).toEqual(['#0a0a0a', '#f0f0f0']);
  });
});
