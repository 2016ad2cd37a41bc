import { SVGPathData } from 'svg-pathdata';
import { type Block, createBlock, newFit } from '../job';
import { type FaceSet, setBlock } from '../setting';
import { randomFrom, shippedFaces, sized } from '../testing';
import { letterOutlines } from '.';

/** Faces whose boxes, as their control points or headers have them, are not their ink. */
const FACES = ['eb-garamond-italic', 'playfair-display-italic', 'playfair-display-bold'];
const WORDS = 'Wrayfold nights falling Jupiter fjord Quiet gyratory Yonder feeling Vega off joy ffi kayak Zephyr just'.split(' ');

describe('a fitted line on exported outlines', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces(...FACES)));

  it('is as wide as it is to be, to a hundredth of a point, by the curves’ own extremes', () => {
    const random = randomFrom(31);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] ?? list[0]!;
    let worst = 0;
    for (let i = 0; i < sized(120, 500); i++) {
      const words = Array.from({ length: 1 + Math.floor(random() * 3) }, () => pick(WORDS)).join(' ');
      const plain = createBlock('b', words, { xPt: 30, yPt: 40, widthPt: 5000, heightPt: 100 }, { faceId: pick(FACES), sizePt: 48 });
      const natural = setBlock(plain, faces).lines[0]?.widthPt ?? 0;
      const pt = Math.round(natural * (0.4 + 3 * random()) * 100) / 100;
      const block: Block = { ...plain, fit: newFit({ to: { kind: 'pt', pt }, ink: true }) };
      const setting = setBlock(block, faces);
      const { minX, maxX } = new SVGPathData(letterOutlines(block, setting, [{ start: 0, end: words.length }], faces)).getBounds();
      worst = Math.max(worst, Math.abs(maxX - minX - pt));
    }
    expect(worst).toBeLessThan(0.01);
  });
});
