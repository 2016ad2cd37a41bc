import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { fontBytes } from '../testing';
import { extremesOf } from './extremes';
import { Face } from './face';
import { type Outline, controlBounds } from './outline';

/** A box found by looking at very many places of an outline. */
function looked(outline: Outline): { xMin: number; xMax: number; yMin: number; yMax: number } {
  const seen: [number, number][] = [];
  let from: [number, number] = [0, 0];
  for (const { type, values } of outline) {
    if (type === 'Z') continue;
    const points: [number, number][] = [from];
    for (let i = 0; i < values.length; i += 2) points.push([values[i]!, values[i + 1]!]);
    if (type !== 'M') {
      for (let step = 0; step <= 400; step++) {
        // De Casteljau's construction.
        let left = points;
        while (left.length > 1)
          left = left.slice(1).map(([x, y], i) => [left[i]![0] + (step / 400) * (x - left[i]![0]), left[i]![1] + (step / 400) * (y - left[i]![1])]);
        seen.push(left[0]!);
      }
    }
    from = points[points.length - 1]!;
  }
  const [xs, ys] = [seen.map(([x]) => x), seen.map(([, y]) => y)];
  return { xMin: Math.min(...xs), xMax: Math.max(...xs), yMin: Math.min(...ys), yMax: Math.max(...ys) };
}

describe('the box around an outline', () => {
  it('is its curves’ own, whatever their control points', () => {
    const place = fc.integer({ min: -2000, max: 2000 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('L', 'Q', 'C'), fc.array(place, { minLength: 6, maxLength: 6 })), { minLength: 1, maxLength: 5 }),
        (pieces) => {
          const count = { L: 2, Q: 4, C: 6 };
          const outline: Outline = [
            { type: 'M', values: [7, -3] },
            ...pieces.map(([type, values]) => ({ type: type as 'L', values: values.slice(0, count[type as 'L']) })),
            { type: 'Z', values: [] },
          ];
          const wanted = looked(outline);
          fc.pre(wanted.xMax > wanted.xMin && wanted.yMax > wanted.yMin);
          const box = extremesOf(outline)!;
          for (const side of ['xMin', 'xMax', 'yMin', 'yMax'] as const)
            expect(Math.abs(box[side] - wanted[side]))
              .withContext(JSON.stringify(outline))
              .toBeLessThan(0.1);
          // Nothing that was looked at lies outside.
          expect(
            box.xMin <= wanted.xMin + 1e-9 && box.xMax >= wanted.xMax - 1e-9 && box.yMin <= wanted.yMin + 1e-9 && box.yMax >= wanted.yMax - 1e-9,
          ).toBeTrue();
        },
      ),
      { numRuns: 200 },
    );
    expect(extremesOf([])).toBeUndefined();
    expect(
      extremesOf([
        { type: 'M', values: [5, 5] },
        { type: 'Z', values: [] },
      ]),
    ).toBeUndefined();
    // A place to start from that nothing is drawn from is no ink.
    const box: Outline = [
      { type: 'M', values: [900, 900] },
      { type: 'M', values: [0, 0] },
      { type: 'L', values: [10, 0] },
      { type: 'L', values: [10, 10] },
      { type: 'Z', values: [] },
    ];
    expect(extremesOf(box)).toEqual({ xMin: 0, xMax: 10, yMin: 0, yMax: 10 });
  });

  it('is what faces have whose stated boxes are wider', async () => {
    const catalogue = (name: string): Uint8Array => new Uint8Array(readFileSync(new URL(`../../../faces/catalogue/${name}`, import.meta.url)));
    for (const [name, bytes] of [
      ['EB Garamond Italic', fontBytes('eb-garamond-italic')],
      ['Playfair Display Italic', fontBytes('playfair-display-italic')],
      ['Courgette', catalogue('courgette-400.woff')],
    ] as const) {
      const instance = (await Face.open(bytes)).instance();
      let wider = 0;
      for (const letter of 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz&?“') {
        const glyph = instance.nominalGlyph(letter.codePointAt(0)!)!;
        const [box, seen, control] = [instance.inkBounds(glyph)!, looked(instance.outline(glyph)), controlBounds(instance.outline(glyph))!];
        for (const side of ['xMin', 'xMax', 'yMin', 'yMax'] as const)
          expect(Math.abs(box[side] - seen[side]))
            .withContext(`${name} ${letter} ${side}`)
            .toBeLessThan(0.1);
        if (control.xMax > box.xMax + 1 || control.xMin < box.xMin - 1) wider++;
      }
      expect(wider).withContext(name).toBeGreaterThan(3);
    }
  });
});
