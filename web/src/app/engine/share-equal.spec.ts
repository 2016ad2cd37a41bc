import { shareEqual } from './share-equal';

describe('what is sent again', () => {
  const before = {
    words: 'AVATAR',
    style: { sizePt: 12, axes: {} },
    runs: [
      { start: 0, style: { turnDeg: 10 } },
      { start: 3, style: { turnDeg: 20 } },
    ],
    none: null,
  };

  it('is what it was where it says the same', () => {
    expect(shareEqual(before, structuredClone(before))).toBe(before);
    expect(shareEqual(undefined, before)).toBe(before);
  });

  it('shares every part that says the same, and says what was sent', () => {
    const sent = structuredClone(before);
    sent.runs[1]!.style.turnDeg = 21;
    const next = shareEqual(before, structuredClone(sent));
    expect(next).toEqual(sent);
    expect(next).not.toBe(before);
    expect(next.style).toBe(before.style);
    expect(next.runs[0]).toBe(before.runs[0]);
    expect(next.runs[1]).not.toBe(before.runs[1]);
    expect(before.runs[1]!.style.turnDeg).toBe(20);
  });

  it('tells more, less, other kinds and absent from undefined', () => {
    for (const [from, to] of [
      [{ a: 1 }, { a: 1, b: undefined }],
      [{ a: 1, b: undefined }, { a: 1 }],
      [[1, 2], [1]],
      [[1], [1, 2]],
      [[], {}],
      [{}, []],
      [{ 0: 1 }, [1]],
      [null, {}],
      [{}, null],
      [{ a: 1 }, { b: 1 }],
    ] as [unknown, unknown][]) {
      const next = shareEqual(from, to);
      expect(next)
        .withContext(JSON.stringify([from, to]))
        .toEqual(to);
      expect(next).not.toBe(from);
    }
  });
});
