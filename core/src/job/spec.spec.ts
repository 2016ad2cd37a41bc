import fc from 'fast-check';
import type { Leading } from '../units';
import { ALIGNMENTS, DEFAULT_STYLE, type NamedFace, SpecError, type Style, parseSpec, printSpec } from './index';

const FACES: NamedFace[] = [
  { id: 'playfair-display-regular', family: 'Playfair Display', style: 'Regular' },
  { id: 'playfair-display-bold', family: 'Playfair Display', style: 'Bold' },
  { id: 'source-sans-3-regular', family: 'Source Sans 3', style: 'Regular' },
  { id: 'source-sans-3-semibold', family: 'Source Sans 3', style: 'SemiBold' },
];

const WITH = { faces: FACES, sizePt: 48 };

function specError(text: string): SpecError {
  try {
    parseSpec(text, WITH);
  } catch (error) {
    if (error instanceof SpecError) return error;
    throw error;
  }
  throw new Error(`“${text}” was read`);
}

describe('spec line', () => {
  it('understands tracking by its name, uppercase, leading alone and centimetres', () => {
    expect(parseSpec('tracking -20', WITH).style.trackingMilliem).toBe(-20);
    expect(parseSpec('Track 10', WITH).style.trackingMilliem).toBe(10);
    expect(parseSpec('tracking 4.8pt', WITH).style.trackingMilliem).toBe(100);
    expect(parseSpec('Playfair Bold 64 uppercase', WITH).style).toEqual({ faceId: 'playfair-display-bold', sizePt: 64, case: 'capitals' });
    expect(parseSpec('120%', WITH)).toEqual({ style: {}, leading: { kind: 'multiple', factor: 1.2 } });
    expect(parseSpec('5cm', WITH).style.sizePt).toBeCloseTo(141.73, 2);
    expect(specError('tracking').message).toContain('must follow');
    expect(specError('tracking wide').word).toBe('wide');
    expect(specError('tracking 5 +10').message).toContain('twice');
    expect(specError('64/60 120%').message).toContain('twice');
    expect(specError('grotesk').message).toContain('Didn’t understand “grotesk”');
  });

  it('reads trade notation', () => {
    expect(parseSpec('Playfair Bold 64/60 −12', WITH)).toEqual({
      style: { faceId: 'playfair-display-bold', sizePt: 64, trackingMilliem: -12 },
      leading: { kind: 'pt', pt: 60 },
    });
    expect(parseSpec('34/auto +15 centre word -20', WITH)).toEqual({
      style: { sizePt: 34, trackingMilliem: 15, wordSpaceMilliem: -20 },
      leading: { kind: 'auto' },
      align: 'centre',
    });
    expect(parseSpec('34/auto', { ...WITH, autoFactor: 1.1 }).leading).toEqual({ kind: 'auto', factor: 1.1 });
    expect(parseSpec('source sans 3 semi', WITH).style.faceId).toBe('source-sans-3-semibold');
    expect(parseSpec('Playfair', WITH).style.faceId).toBe('playfair-display-regular');
    expect(parseSpec('10mm/120%', WITH).style.sizePt).toBeCloseTo(28.346, 3);
    expect(parseSpec('+1pt', { faces: FACES, sizePt: 50 }).style.trackingMilliem).toBe(20);
    expect(parseSpec('34/36 +15 centre caps wide 90% tall 110', WITH)).toEqual({
      style: { sizePt: 34, trackingMilliem: 15, case: 'capitals', scaleX: 0.9, scaleY: 1.1 },
      leading: { kind: 'pt', pt: 36 },
      align: 'centre',
    });
    expect(parseSpec('up +3pt 60 justified', WITH)).toEqual({ style: { sizePt: 60, baselineShiftMilliem: 50 }, align: 'justified' });
    expect(parseSpec('', WITH)).toEqual({ style: {} });
  });

  it('points at the word that is wrong', () => {
    expect(specError('Plafyair 64/60')).toEqual(jasmine.objectContaining({ word: 'Plafyair', index: 0 }));
    expect(specError('Playfair Heavy 64')).toEqual(jasmine.objectContaining({ word: 'Heavy', index: 9 }));
    expect(specError('64/6o')).toEqual(jasmine.objectContaining({ word: '64/6o', index: 0 }));
    expect(specError('64/60 +x')).toEqual(jasmine.objectContaining({ word: '+x', index: 6 }));
    expect(specError('64 +5 −5')).toEqual(jasmine.objectContaining({ word: '−5', index: 6 }));
    expect(specError('64 sideways')).toEqual(jasmine.objectContaining({ word: 'sideways', index: 3 }));
    expect(specError('64 word')).toEqual(jasmine.objectContaining({ word: 'word', index: 3 }));
    expect(specError('64 wide big')).toEqual(jasmine.objectContaining({ word: 'big', index: 8 }));
    expect(specError('0.2')).toEqual(jasmine.objectContaining({ word: '0.2' }));
  });

  it('prints and reads back any settings', () => {
    const settings = fc.record({
      face: fc.constantFrom(...FACES),
      sizePt: fc.integer({ min: 10, max: 50_000 }).map((n) => n / 10),
      leading: fc.nat({ max: 9_999 }).map((n): Leading => ({ kind: 'pt', pt: n / 10 })),
      trackingMilliem: fc.integer({ min: -2000, max: 5000 }).map((n) => n / 10),
      wordSpaceMilliem: fc.integer({ min: -2000, max: 5000 }).map((n) => n / 10),
      baselineShiftMilliem: fc.integer({ min: -2000, max: 5000 }).map((n) => n / 10),
      align: fc.constantFrom(...ALIGNMENTS),
      case: fc.constantFrom('typed' as const, 'capitals' as const, 'title' as const, 'small' as const),
      scaleX: fc.integer({ min: 100, max: 10_000 }).map((n) => n / 1000),
      scaleY: fc.integer({ min: 100, max: 10_000 }).map((n) => n / 1000),
    });
    const printed = (style: Style): string =>
      JSON.stringify(Object.entries(style).map(([key, value]) => [key, typeof value === 'number' ? value.toFixed(6) : value]));
    expect(() =>
      fc.assert(
        fc.property(settings, ({ face, leading, align, ...change }) => {
          const style = { ...DEFAULT_STYLE, ...change, faceId: face.id };
          const back = parseSpec(printSpec(face, { style, leading, align }), WITH);
          if (printed({ ...DEFAULT_STYLE, ...back.style }) !== printed(style)) throw new Error(JSON.stringify(back));
          if ((back.align ?? 'left') !== align || JSON.stringify(back.leading) !== JSON.stringify(leading)) throw new Error(JSON.stringify(back));
        }),
        { numRuns: 500 },
      ),
    ).not.toThrow();
  });
});
