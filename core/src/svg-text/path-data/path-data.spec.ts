import { curveOf } from '../../setting';
import { PathDataError, readPath } from '.';

describe('path data', () => {
  const lengthOf = (text: string): number => curveOf(readPath(text)).lengthPt;

  it('is read whatever commands it is written in', () => {
    expect(lengthOf('M0 0L300 400')).toBeCloseTo(500, 6);
    expect(lengthOf('m10,10 h50 v50 H0')).toBeCloseTo(160, 6);
    expect(lengthOf('M0 0A50 50 0 0 1 100 0')).toBeCloseTo(Math.PI * 50, 1);
    expect(lengthOf('M0 0Q50 100 100 0T200 0')).toBeGreaterThan(200);
    expect(readPath('M5 6C1 2 3 4 7 8').start).toEqual({ xPt: 5, yPt: 6 });
  });

  it('is found in an SVG; only its first subpath counts', () => {
    expect(lengthOf('<svg xmlns="http://www.w3.org/2000/svg"><g><path fill="none" d="M0 0L10 0M50 50L90 90"/></g></svg>')).toBeCloseTo(10, 6);
  });

  it('is refused with a reason where it is none', () => {
    for (const text of ['', 'hello', 'M', 'M0 0', 'M0 0L0 0', '<svg></svg>', 'L5 5', `M0 0${'L1 1L0 0'.repeat(600)}`, 'M0 0L1e9 0', 'M0 0LNaN 1'])
      expect(() => readPath(text))
        .withContext(text.slice(0, 30))
        .toThrowError(PathDataError);
  });
});
