import fc from 'fast-check';
import { type Block, type HandKern, createBlock } from '../job';
import type { Point } from '../placing';
import { readPicture } from '../reading';
import { blockFor, pictureOf } from '../reading/testing';
import { type FaceSet, setBlock } from '../setting';
import { shippedFaces } from '../testing';
import {
  type ReferencePlace,
  referenceDifferences,
  fittedPlace,
  movedOntoReference,
  placeOnSheet,
  placedByPairs,
  setLinesOnSheet,
  takeReading,
  typeRead,
} from '.';

const FACE = 'playfair-display-bold';
const PLACE: ReferencePlace = { xPt: 30, yPt: -12, scale: 0.5, turnDeg: 20 };

describe('the place of a reference', () => {
  const coordinate = fc.double({ min: -500, max: 500, noNaN: true });
  const point = fc.record({ xPt: coordinate, yPt: coordinate });

  it('is where its matrix says', () => {
    expect(placeOnSheet({ x: 0, y: 0 }, PLACE)).toEqual({ xPt: 30, yPt: -12 });
    const { xPt, yPt } = placeOnSheet({ x: 10, y: 0 }, PLACE);
    expect([xPt - 30, yPt + 12].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([4.698463, 1.710101]);
  });

  it('brings two places of it where they are wanted', () => {
    fc.assert(
      fc.property(point, point, point, point, (first, second, toA, toB) => {
        const [a, b] = [first, second].map(({ xPt, yPt }) => placeOnSheet({ x: xPt, y: yPt }, PLACE)) as [Point, Point];
        fc.pre(Math.hypot(a.xPt - b.xPt, a.yPt - b.yPt) > 5 && Math.hypot(toA.xPt - toB.xPt, toA.yPt - toB.yPt) > 5);
        const placed = placedByPairs(PLACE, [
          { from: a, to: toA },
          { from: b, to: toB },
        ]);
        if (!placed) throw new Error('It is not placed');
        for (const [at, to] of [
          [first, toA],
          [second, toB],
        ] as const) {
          const now = placeOnSheet({ x: at.xPt, y: at.yPt }, placed);
          expect(now.xPt).toBeCloseTo(to.xPt, 5);
          expect(now.yPt).toBeCloseTo(to.yPt, 5);
        }
        expect(Math.abs(placed.turnDeg)).toBeLessThanOrEqual(180);
      }),
    );
    expect(placedByPairs(PLACE, [{ from: { xPt: 1, yPt: 2 }, to: { xPt: 4, yPt: 8 } }])).toEqual({ ...PLACE, xPt: 33, yPt: -6 });
    const near = { from: { xPt: 1, yPt: 1 }, to: { xPt: 1, yPt: 1 } };
    expect(placedByPairs(PLACE, [near, near])).toBeUndefined();
    // Nor is it anything that a job does not hold.
    expect(placedByPairs(PLACE, [{ from: { xPt: 0, yPt: 0 }, to: { xPt: 60_000, yPt: 0 } }])).toBeUndefined();
    const far = { from: { xPt: 4, yPt: 1 }, to: { xPt: 40_000, yPt: 1 } };
    expect(placedByPairs(PLACE, [near, far])).toBeUndefined();
  });

  it('fits a picture into the sheet', () => {
    expect(fittedPlace({ width: 400, height: 100 }, { widthPt: 200, heightPt: 200 })).toEqual({ scale: 0.5, turnDeg: 0, xPt: 0, yPt: 75 });
    expect(fittedPlace({ width: 1, height: 1 }, { widthPt: 20_000, heightPt: 20_000 }).scale).toBe(1000);
  });
});

describe('a block against its reference', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces(FACE);
  });
  const words = 'Perseids over\nthe salt marsh';
  const block = (change: Partial<Block> = {}): Block => ({
    ...createBlock('a', words, { xPt: 40, yPt: 50, widthPt: 500, heightPt: 100 }, { faceId: FACE, sizePt: 40 }),
    leading: { kind: 'multiple', factor: 1.2 },
    ...change,
  });
  const AS_IT_IS: ReferencePlace = { xPt: 0, yPt: 0, scale: 1, turnDeg: 0 };
  const linesOf = (one: Block, place = AS_IT_IS) => setLinesOnSheet(one, setBlock(one, faces), place);

  it('has no differences from itself, turned or not', () => {
    for (const rotationDeg of [0, 33]) {
      const own = block({ rotationDeg });
      const { lines, brokenElsewhere } = referenceDifferences(own, setBlock(own, faces), linesOf(own));
      expect(brokenElsewhere).toBe(0);
      expect(lines.length).toBe(2);
      for (const { widthPt, startPt, baselinePt, gaps } of lines) {
        for (const value of [widthPt, startPt, baselinePt, ...gaps.map(({ byPt }) => byPt)]) expect(value).toBeCloseTo(0, 6);
        expect(gaps.length).toBe(11);
      }
    }
  });

  it('tells of width, start, baseline and single gaps', () => {
    const hand: HandKern[] = [{ at: 1, milliem: 30 }];
    const moved = block({ hand, frame: { xPt: 45, yPt: 53, widthPt: 500, heightPt: 100 }, leading: { kind: 'multiple', factor: 1.3 } });
    const { lines } = referenceDifferences(block(), setBlock(block(), faces), linesOf(moved));
    expect(lines.map(({ startPt }) => Math.round(startPt * 1000) / 1000)).toEqual([5, 5]);
    expect(lines[0]?.widthPt).toBeCloseTo(1.2, 6);
    expect((lines[1]?.baselinePt ?? 0) - (lines[0]?.baselinePt ?? 0)).toBeCloseTo(4, 6);
    expect(lines[0]?.gaps.filter(({ milliem }) => Math.abs(milliem) > 0.01).map(({ at, milliem }) => [at, Math.round(milliem)])).toEqual([[1, 30]]);
  });

  it('compares lines that are broken elsewhere as far as they go together', () => {
    const other = block({ words: 'Perseids over the\nsalt marsh' });
    const { lines, brokenElsewhere } = referenceDifferences(block(), setBlock(block(), faces), linesOf(other));
    expect(brokenElsewhere).toBe(1);
    expect(lines[0]?.widthPt).toBeCloseTo(0, 6);
  });

  it('takes what was read: the block is then as the picture', async () => {
    const made = blockFor(words, FACE, { sizePt: 52, trackingMilliem: 35, leading: 1.4 });
    const read = readPicture(await pictureOf(made, faces, { pixelsPerInch: 144, turnDeg: 1.5 }), { block: block(), faces }).words;
    if (!read) throw new Error('Nothing was read');
    const place: ReferencePlace = { xPt: 100, yPt: 80, scale: 0.5, turnDeg: -1.5 };
    const type = typeRead(read, place);
    expect(type.sizePt).toBeCloseTo(52, 0);
    expect(type.angleDeg).toBeCloseTo(0, 1);
    const taken = takeReading(block(), read, place, ['size', 'tracking', 'leading', 'angle', 'lines']);
    expect(taken.style.sizePt).toBeCloseTo(52, 0);
    expect(taken.style.trackingMilliem).toBeCloseTo(35, -1);
    expect(taken.leading.kind === 'multiple' && taken.leading.factor).toBeCloseTo(1.4, 2);
    const placed = movedOntoReference(taken, setBlock(taken, faces), read, place);
    const set = setBlock(placed, faces);
    const { lines } = referenceDifferences(
      placed,
      set,
      read.lines.map(({ start, end, letters }) => ({
        start,
        end,
        letters: letters.map(({ at, x, y, error }) => ({ at, ...placeOnSheet({ x, y }, place), errorPt: error })),
      })),
    );
    for (const { widthPt, startPt, baselinePt, gaps } of lines) {
      expect(Math.abs(widthPt)).toBeLessThan(1.5);
      expect(Math.abs(startPt)).toBeLessThan(0.6);
      expect(Math.abs(baselinePt)).toBeLessThan(0.6);
      for (const { milliem } of gaps) expect(Math.abs(milliem)).toBeLessThan(8);
    }
  });

  it('takes only what is asked for, in the block’s own kind of leading, and lets a fit go', async () => {
    const made = blockFor(words, FACE, { sizePt: 52, trackingMilliem: 35, leading: 1.4 });
    const read = readPicture(await pictureOf(made, faces, { pixelsPerInch: 144 }), { block: block(), faces }).words;
    if (!read) throw new Error('Nothing was read');
    const place: ReferencePlace = { xPt: 0, yPt: 0, scale: 0.5, turnDeg: 0 };
    // What was read, also where the size is left as it is.
    const inPoints = takeReading(block({ leading: { kind: 'pt', pt: 60 } }), read, place, ['leading']);
    expect(inPoints.leading.kind === 'pt' && inPoints.leading.pt).toBeCloseTo(52 * 1.4, 0);
    expect(inPoints.style.sizePt).toBe(40);
    expect(inPoints.style.trackingMilliem).toBe(0);
    expect(takeReading(block(), read, place, [])).toEqual(block());
    const flowing = takeReading(block({ words: 'Perseids over the salt marsh' }), read, place, ['lines']);
    expect(flowing.words).toBe('Perseids over\nthe salt marsh');
  });
});
