import fc from 'fast-check';
import {
  ALIGNMENTS,
  type Leading,
  type NamedFace,
  SpecError,
  UnitError,
  fromPoints,
  leadingPoints,
  parseLeading,
  parseLength,
  parseMilliem,
  parseSpec,
  printLeading,
  printSpec,
  toPoints,
} from './index';

const FACES: NamedFace[] = [
  { id: 'playfair-display-regular', family: 'Playfair Display', style: 'Regular' },
  { id: 'playfair-display-bold', family: 'Playfair Display', style: 'Bold' },
  { id: 'source-sans-3-regular', family: 'Source Sans 3', style: 'Regular' },
  { id: 'source-sans-3-semibold', family: 'Source Sans 3', style: 'SemiBold' },
];

function specError(text: string): SpecError {
  try {
    parseSpec(text, FACES, 48);
  } catch (error) {
    if (error instanceof SpecError) return error;
    throw error;
  }
  throw new Error(`“${text}” was read`);
}

describe('units', () => {
  it('converts lengths', () => {
    expect(toPoints(25.4, 'mm')).toBeCloseTo(72, 10);
    expect(toPoints(96, 'px')).toBe(72);
    expect(fromPoints(toPoints(3.7, 'in'), 'in')).toBeCloseTo(3.7, 12);
    expect(parseLength('12')).toBe(12);
    expect(parseLength('2,5 mm')).toBeCloseTo(7.0866, 4);
    expect(parseLength('10', 'px')).toBe(7.5);
    expect(parseLength('−3pt')).toBe(-3);
    for (const bad of ['', 'wide', '12 ells', '1.2.3', '--4']) expect(() => parseLength(bad)).toThrowError(UnitError);
  });

  it('reads letter space in any unit', () => {
    expect(parseMilliem('+15', 34)).toBe(15);
    expect(parseMilliem('−12.5', 34)).toBe(-12.5);
    expect(parseMilliem('0.02em', 34)).toBe(20);
    expect(parseMilliem('2%', 34)).toBe(20);
    expect(parseMilliem('1pt', 50)).toBe(20);
    expect(() => parseMilliem('3x', 50)).toThrowError(UnitError);
  });

  it('reads and measures leading', () => {
    expect(parseLeading('auto')).toEqual({ kind: 'auto' });
    expect(parseLeading('36')).toEqual({ kind: 'pt', pt: 36 });
    expect(parseLeading('105%')).toEqual({ kind: 'multiple', factor: 1.05 });
    expect(parseLeading('1.1x')).toEqual({ kind: 'multiple', factor: 1.1 });
    expect(leadingPoints({ kind: 'auto' }, 50)).toBe(60);
    expect(leadingPoints(parseLeading('auto', 1.25), 50)).toBe(62.5);
    expect(parseLeading('auto', 1.2)).toEqual({ kind: 'auto' });
    expect(parseSpec('34/auto', FACES, 48, 1.1).leading).toEqual({ kind: 'auto', factor: 1.1 });
    expect(leadingPoints({ kind: 'multiple', factor: 0.9 }, 50)).toBe(45);
    expect(() => parseLeading('-4')).toThrowError(UnitError);
    expect(() => parseLeading('4em')).toThrowError(UnitError);
  });

  it('prints leading so that it reads back', () => {
    const leading: fc.Arbitrary<Leading> = fc.oneof(
      fc.constant({ kind: 'auto' } as const),
      fc.nat({ max: 99_999 }).map((n) => ({ kind: 'pt' as const, pt: n / 100 })),
      fc.nat({ max: 9_999 }).map((n) => ({ kind: 'multiple' as const, factor: n / 10_000 })),
    );
    fc.assert(
      fc.property(leading, (value) => {
        const back = parseLeading(printLeading(value));
        expect(back.kind).toBe(value.kind);
        expect(leadingPoints(back, 100)).toBeCloseTo(leadingPoints(value, 100), 8);
      }),
    );
  });
});

describe('spec line', () => {
  it('reads trade notation', () => {
    expect(parseSpec('Playfair Bold 64/60 −12', FACES, 48)).toEqual({
      faceId: 'playfair-display-bold',
      sizePt: 64,
      leading: { kind: 'pt', pt: 60 },
      trackingMilliem: -12,
    });
    expect(parseSpec('34/auto +15 centre word -20', FACES, 48)).toEqual({
      sizePt: 34,
      leading: { kind: 'auto' },
      trackingMilliem: 15,
      align: 'centre',
      wordSpaceMilliem: -20,
    });
    expect(parseSpec('source sans 3 semi', FACES, 48).faceId).toBe('source-sans-3-semibold');
    expect(parseSpec('Playfair', FACES, 48).faceId).toBe('playfair-display-regular');
    expect(parseSpec('10mm/120%', FACES, 48).sizePt).toBeCloseTo(28.346, 3);
    expect(parseSpec('+1pt', FACES, 50).trackingMilliem).toBe(20);
    expect(parseSpec('34/36 +15 centre caps wide 90% tall 110', FACES, 48)).toEqual(
      jasmine.objectContaining({ case: 'capitals', align: 'centre', scaleX: 0.9, scaleY: 1.1 }),
    );
    expect(parseSpec('', FACES, 48)).toEqual({});
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
    const spec = fc.record({
      face: fc.constantFrom(...FACES),
      sizePt: fc.integer({ min: 10, max: 50_000 }).map((n) => n / 10),
      leading: fc.nat({ max: 9_999 }).map((n): Leading => ({ kind: 'pt', pt: n / 10 })),
      trackingMilliem: fc.integer({ min: -2000, max: 5000 }).map((n) => n / 10),
      wordSpaceMilliem: fc.integer({ min: -2000, max: 5000 }).map((n) => n / 10),
      align: fc.constantFrom(...ALIGNMENTS),
      case: fc.constantFrom('typed' as const, 'capitals' as const, 'title' as const, 'small' as const),
      scaleX: fc.integer({ min: 100, max: 10_000 }).map((n) => n / 1000),
      scaleY: fc.integer({ min: 100, max: 10_000 }).map((n) => n / 1000),
    });
    fc.assert(
      fc.property(spec, ({ face, ...values }) => {
        const back = parseSpec(printSpec(face, values), FACES, 48);
        const { scaleX, scaleY, ...rest } = { wordSpaceMilliem: 0, align: 'left', case: 'typed', scaleX: 1, scaleY: 1, ...back };
        const { scaleX: wide, scaleY: tall, ...others } = { faceId: face.id, ...values };
        expect(rest).toEqual(others);
        expect([scaleX.toFixed(6), scaleY.toFixed(6)]).toEqual([wide.toFixed(6), tall.toFixed(6)]);
      }),
      { numRuns: 500 },
    );
  });
});
