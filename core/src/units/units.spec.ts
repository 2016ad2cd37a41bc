import fc from 'fast-check';
import { type Leading, UnitError, fromPoints, leadingPoints, parseLeading, parseLength, parseMilliem, printLeading, printLeadings, toPoints } from './index';
import { typedLeading } from './typed';

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
    expect(leadingPoints({ kind: 'multiple', factor: 0.9 }, 50)).toBe(45);
    expect(() => parseLeading('-4')).toThrowError(UnitError);
    expect(() => parseLeading('4em')).toThrowError(UnitError);
  });

  it('prints leading before and after in one unit', () => {
    const pt = { kind: 'pt', pt: 172.5 } as const;
    const multiple = { kind: 'multiple', factor: 1.02 } as const;
    expect(printLeadings(pt, multiple, [200, 200])).toEqual(['172.5 pt', '204 pt']);
    expect(printLeadings(multiple, pt, [200, 100])).toEqual(['204 pt', '172.5 pt']);
    expect(printLeadings({ kind: 'auto' }, multiple, [50, 50])).toEqual(['auto, 120 %', '102 %']);
    expect(printLeadings({ kind: 'auto' }, pt, [50, 50])).toEqual(['auto, 60 pt', '172.5 pt']);
  });

  it('reads a multiple however it is typed, and refuses what can’t be meant', () => {
    for (const text of ['1.1', '1,1', ' 1.1 ', '110', '110%', '110 %', '1.1x'])
      expect(typedLeading(text, 'multiple')).toEqual({ kind: 'multiple', factor: jasmine.any(Number) });
    for (const text of ['1.1', '1,1', '110', '110 %', '1.1x']) expect(leadingPoints(typedLeading(text, 'multiple'), 100)).toBeCloseTo(110, 9);
    expect(leadingPoints(typedLeading('5', 'multiple'), 10)).toBe(50);
    expect(leadingPoints(typedLeading('20', 'multiple'), 10)).toBe(2);
    for (const text of ['0.011', '0.19', '11', '6', '19.9', '1.1%', '0.011x', '1001', '11x'])
      expect(() => typedLeading(text, 'multiple'))
        .withContext(text)
        .toThrowError(UnitError, /is not a multiple/);
    // What has a unit, or is stated otherwise, is what it says.
    expect(typedLeading('36pt', 'multiple')).toEqual({ kind: 'pt', pt: 36 });
    expect(typedLeading('auto', 'multiple', 1.3)).toEqual({ kind: 'auto', factor: 1.3 });
    expect(typedLeading('1.1', 'pt')).toEqual({ kind: 'pt', pt: 1.1 });
    expect(typedLeading('36', 'auto')).toEqual({ kind: 'pt', pt: 36 });
    expect(typedLeading('90%', 'pt')).toEqual({ kind: 'multiple', factor: 0.9 });
    expect(() => typedLeading('0.011x', 'pt')).toThrowError(/is not a multiple/);
    expect(() => typedLeading('wide', 'multiple')).toThrowError(UnitError);
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
