import { keptBy, knownOf } from './remember';

describe('what is remembered', () => {
  it('is worked out once for a thing, and anew for another', () => {
    const known = new WeakMap<object, number>();
    const make = jasmine.createSpy('make', () => 7).and.callThrough();
    const [one, other] = [{}, {}];
    expect([knownOf(known, one, make), knownOf(known, one, make), knownOf(known, other, make)]).toEqual([7, 7, 7]);
    expect(make).toHaveBeenCalledTimes(2);
  });

  it('lets the oldest go when there is too much, and what failed is asked for again', () => {
    const kept = new Map<string, string>();
    for (const key of ['a', 'b', 'a', 'c']) expect(keptBy(kept, key, 2, () => `of ${key}`)).toBe(`of ${key}`);
    expect([...kept.keys()]).toEqual(['b', 'c']);
    const fails = (): string => {
      throw new Error('not now');
    };
    expect(() => keptBy(kept, 'd', 2, fails)).toThrowError('not now');
    expect(keptBy(kept, 'd', 2, () => 'of d')).toBe('of d');
  });
});
