import fc from 'fast-check';
import type { FaceInstance } from '../face';
import { openShipped } from '../testing';
import {
  DESCRIBED,
  type GlyphProfile,
  BASE_LEVEL,
  type Precedents,
  RANK,
  describe as describeLetter,
  liken,
  packNumbers,
  precedent,
  profileOf,
  proposeKerning,
  recall,
  rhythmOf,
  stepFor,
  unpackNumbers,
  withPrecedent,
  withoutSmall,
} from '.';

describe('packed numbers', () => {
  it('come back to within half a step, and end where digits do', () => {
    for (const [digits, most] of [
      [1, 0.045],
      [2, 4.14],
    ] as const) {
      fc.assert(
        fc.property(fc.array(fc.double({ min: -most, max: most, noNaN: true })), (values) => {
          const text = packNumbers(values, 0.001, digits);
          const back = unpackNumbers(text, 0.001, digits);
          expect(text).not.toMatch(/["'\\]/);
          expect(text.length).toBe(digits * values.length);
          expect(back.length).toBe(values.length);
          expect(values.every((value, i) => Math.abs(value - (back[i] ?? Number.NaN)) <= 0.0005 + 1e-9)).toBeTrue();
        }),
      );
      expect([...unpackNumbers(packNumbers([9, -9, 0], 0.001, digits), 0.001, digits)].map((value) => Number(value.toFixed(6)))).toEqual([most, -most, 0]);
    }
    const values = [0.3, -2, 0.01];
    const step = stepFor(values);
    expect([...unpackNumbers(packNumbers(values, step, 1), step, 1)].map((value) => Number(value.toFixed(6)))).toEqual([0.311111, -2, 0]);
  });
});

describe('precedents', () => {
  let sans: FaceInstance;
  let serif: FaceInstance;
  let other: FaceInstance;
  beforeAll(async () => {
    const open = async (id: string): Promise<FaceInstance> => (await openShipped(id)).instance();
    sans = await open('source-sans-3-regular');
    serif = await open('eb-garamond-regular');
    other = await open('playfair-display-regular');
  });
  const letter = (instance: FaceInstance, char: string): GlyphProfile => {
    const profile = profileOf(instance, instance.nominalGlyph(char.codePointAt(0) ?? 0) ?? 0);
    if (!profile) throw new Error(`no ink: ${char}`);
    return profile;
  };
  const described = (instance: FaceInstance, char: string): Float64Array => describeLetter(letter(instance, char), rhythmOf(instance));

  it('describe letters by what is drawn: their own kind in another face is likest', () => {
    const capitals = [...'ACEHKLMNOSTVWXZ'];
    const shapes = capitals.flatMap((char) => [...described(serif, char)]);
    for (const place of ['left', 'right'] as const) {
      const alike = capitals.filter((char, i) => liken(described(other, char), place, shapes).shapes[0]?.at === i);
      expect(alike.length)
        .withContext(alike.join(''))
        .toBeGreaterThanOrEqual(capitals.length - 4);
    }
    // The face's size on the em and its names for letters play no part.
    expect(described(serif, 'É').slice(0, 3)).toEqual(described(serif, 'E').slice(0, 3));
  });

  it('liken a letter to few shapes, the nearest most, one in all', () => {
    const shapes = [...'HOTAnovt'].flatMap((char) => [...described(serif, char)]);
    const { shapes: found, distance } = liken(described(serif, 'T'), 'left', shapes);
    expect(found[0]?.at).toBe(2);
    expect(distance).toBe(0);
    expect(found.length).toBe(6);
    expect(found.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9);
    expect(found.every(({ weight }, i) => i === 0 || weight <= (found[i - 1]?.weight ?? 0))).toBeTrue();
    expect(liken(described(serif, 'T'), 'left', []).shapes).toEqual([]);
  });

  it('give what was given to the shapes, the less the less a letter is like any', () => {
    // Two shapes; only the first one left of the second is kerned, by -60.
    const at = (value: number): number[] => Array.from({ length: DESCRIBED }, () => value);
    const factor = (value: number): number[] => Array.from({ length: RANK }, (_, i) => (i === 0 ? value : 0));
    const made: Precedents = {
      shapes: [...at(0), ...at(0.2)],
      factors: { left: [...factor(6), ...factor(0)], right: [...factor(0), ...factor(-10)] },
      words: { left: [-30, 0], right: [0, -20] },
    };
    const between = (left: number, right: number): ReturnType<typeof precedent> => precedent(recall(at(left), 'left', made), recall(at(right), 'right', made));
    expect(between(0, 0.2).milliem).toBeCloseTo(-60, 6);
    expect(between(0.2, 0).milliem).toBeCloseTo(0, 6);
    expect(between(0, 0.2).share).toBe(0.5);
    expect([recall(at(0), 'left', made), recall(at(0.2), 'right', made)].map(({ word }) => word)).toEqual([-30, -20]);
    const shares = [0, 0.02, 0.05, 0.1, 0.3].map((off) => between(-off, 0.2 + off).share);
    expect(shares.every((share, i) => i === 0 || share < (shares[i - 1] ?? 0))).toBeTrue();
    expect(shares.at(-1)).toBeLessThan(0.001);
    expect(withPrecedent(-20, { milliem: -60, share: 0.5 })).toBe(-40);
    expect(withPrecedent(-20, { milliem: -60, share: 0 })).toBe(-20);
  });

  it('let a proposal change by little where a letter is raised or reduced by a hair', () => {
    for (const instance of [sans, serif]) {
      const rhythm = rhythmOf(instance);
      for (const [a, b] of ['To', 'AV', 'Ty', 'LT', 'rv', 'P.'].map((pair) => [...pair] as [string, string])) {
        const [left, right] = [a, b].map((char) => ({ profile: letter(instance, char), rhythm })) as [{ profile: GlyphProfile; rhythm: typeof rhythm }, never];
        const level = proposeKerning(left, right).milliem;
        expect(Math.abs(proposeKerning(left, right, { ...BASE_LEVEL, shift: 0.0005 }).milliem - level))
          .withContext(a + b)
          .toBeLessThanOrEqual(6);
        expect(Math.abs(proposeKerning(left, right, { scale: 0.999, across: 0.999, shift: 0 }).milliem - level))
          .withContext(a + b)
          .toBeLessThanOrEqual(6);
      }
    }
  });
});

describe('small answers', () => {
  it('are none, without a jump, and large ones stay nearly what they are', () => {
    for (const part of ['letters', 'signs'] as const) {
      expect(withoutSmall(0, part)).toBe(0);
      let last = 0;
      for (let answered = 0; answered < 120; answered += 0.05) {
        const kept = withoutSmall(answered, part);
        expect(kept >= last && kept - last < 0.2 && kept <= answered).toBeTrue();
        expect(withoutSmall(-answered, part)).toBeCloseTo(-kept, 12);
        last = kept;
      }
      expect(last).toBeGreaterThan(119);
    }
  });
});
