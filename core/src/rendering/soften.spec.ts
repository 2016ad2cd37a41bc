import { createBlock, createSheet, type Style } from '../job';
import { drawSheet } from '../drawing';
import { writeSvg } from '../formats';
import { type FaceSet, setSheet } from '../setting';
import { shippedFaces } from '../testing';
import { Resvg } from '@resvg/resvg-js';
import fc from 'fast-check';
import { blur, softener } from './soften';

describe('blurred shadows', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });

  /** The sheet's pixels with the renderer's own filter, and with ours. */
  function bothWays(shadow: NonNullable<Style['shadow']>, scale: number): { ours: Uint8Array; filters: Uint8Array } {
    const block = createBlock('b', 'Vega', { xPt: 30, yPt: 20, widthPt: 250, heightPt: 90 }, { faceId: 'playfair-display-bold', sizePt: 90, shadow });
    const sheet = { ...createSheet('s', 'Sheet', 260, 150, 'pt'), blocks: [{ ...block, rotationDeg: 7 }] };
    const pixels = { width: 260 * scale, height: 150 * scale };
    const pictureOf = (soften?: ReturnType<typeof softener>): Uint8Array =>
      new Resvg(writeSvg(drawSheet(sheet, setSheet(sheet, faces)), faces, { letters: 'outlines', pixels, ...(soften ? { soften } : {}) })).render().pixels;
    return { ours: pictureOf(softener(scale)), filters: pictureOf() };
  }

  for (const blurMilliem of [10, 40, 120, 400]) {
    it(`look as SVG’s own filter draws them, at ${blurMilliem}/1000 em`, () => {
      for (const scale of [1, 3]) {
        const { ours, filters } = bothWays({ xMilliem: 40, yMilliem: 60, blurMilliem, colour: '#203060' }, scale);
        let sum = 0;
        let over = 0;
        for (let i = 0; i < ours.length; i++) {
          const difference = Math.abs((ours[i] ?? 0) - (filters[i] ?? 0));
          sum += difference;
          if (difference > 24) over++;
        }
        expect(sum / ours.length).toBeLessThan(1);
        expect(over / ours.length).toBeLessThan(0.005);
      }
    });
  }

  it('keep the amount of ink, and stay where they are', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.4, max: 9, noNaN: true }), fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 12 }), (deviation, dx, dy) => {
        const [width, height] = [121, 113];
        const mask = new Uint8Array(width * height);
        for (let y = 0; y < 15; y++) mask.fill(200, (y + 45 + dy) * width + 45 + dx, (y + 45 + dy) * width + 60 + dx);
        const total = (values: Uint8Array): number => values.reduce((sum, value) => sum + value, 0);
        const middle = (values: Uint8Array): number => values.reduce((sum, value, i) => sum + value * (i % width), 0) / total(values);
        const [before, was] = [total(mask), middle(mask)];
        const soft = blur(mask, width, height, deviation);
        expect(Math.abs(total(soft) / before - 1)).toBeLessThanOrEqual(0.06);
        expect(Math.abs(middle(soft) - was)).toBeLessThanOrEqual(0.25);
      }),
    );
  });
});
