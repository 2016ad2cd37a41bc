import { DEFAULT_STYLE } from '@jentrix/core/job';
import type { BlockSetting, PlacedGlyph, SetLine } from '@jentrix/core/setting';
import { leaveOut, withKnownLines } from './leave-out';
import { putBack } from './same-lines';

describe('lines that did not change', () => {
  const line = (start: number, widthPt: number): SetLine => ({
    start,
    end: start + 3,
    visibleEnd: start + 3,
    leftPt: 0,
    widthPt,
    baselinePt: 10,
    leadingPt: 12,
    sizePt: 10,
    runs: [],
  });
  const setting = (...lines: SetLine[]): BlockSetting => ({
    blockId: 'a',
    lines,
    frame: { xPt: 0, yPt: 0, widthPt: 100, heightPt: 10 },
    heightPt: 10,
    cut: false,
    reducedCaps: false,
    wordSpaceMilliem: 250,
    missingFaces: [],
  });

  const glyph: PlacedGlyph = { glyphId: 7, cluster: 0, xPt: 1, yPt: 10, offsetPt: 0 };
  const lineOf = (...glyphs: PlacedGlyph[]): SetLine => ({
    ...line(0, 50),
    runs: [{ start: 0, end: 3, style: { ...DEFAULT_STYLE }, scale: 0.01, xScale: 0.01, glyphs, rules: [] }],
  });

  it('are the very ones of before, down to every member of every glyph', () => {
    const before = setting(lineOf(glyph, { ...glyph, xPt: 5, shift: { a: 1, b: 0, c: 0, d: 1, e: 0, f: -2 } }), line(3, 40));
    const again = withKnownLines({ ...structuredClone(before), heightPt: 8 }, before);
    expect([again.lines[0], again.lines[1], again.heightPt]).toEqual([before.lines[0], before.lines[1], 8]);
    expect(again.lines[0]).toBe(before.lines[0]);
    const one = setting(lineOf(glyph));
    const others: PlacedGlyph[] = [
      ...(['glyphId', 'cluster', 'xPt', 'yPt', 'offsetPt'] as const).map((member) => ({ ...glyph, [member]: 99 })),
      { ...glyph, shift: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 } },
    ];
    for (const other of others) {
      const changed = setting(lineOf(other));
      expect(withKnownLines(changed, one).lines[0]).withContext(JSON.stringify(other)).toBe(changed.lines[0]);
      expect(withKnownLines(one, changed).lines[0]).toBe(one.lines[0]);
    }
    const longer = setting(lineOf(glyph, glyph));
    expect(withKnownLines(longer, one).lines[0]).toBe(longer.lines[0]);
    expect(withKnownLines(one, undefined)).toBe(one);
  });

  it('are sent by their place, and are the very same ones again on the other side', () => {
    const before = setting(line(0, 50), line(3, 40), line(6, 30));
    const after = withKnownLines({ ...setting(line(0, 50), line(3, 41)), heightPt: 8 }, before);
    const sent = leaveOut(after, before);
    expect(sent.lines).toEqual([0, line(3, 41)]);
    const again = putBack(structuredClone(sent), before);
    expect(again).toEqual(after);
    expect(again.lines[0]).toBe(before.lines[0]);
  });

  it('are all sent where nothing was sent before, straight lines of a path with them', () => {
    const ridden = { ...setting(line(0, 50)), straight: [line(0, 50)], beyondPath: false };
    expect(leaveOut(ridden, undefined)).toEqual(ridden);
    const sent = leaveOut({ ...ridden, lines: [line(0, 60)] }, ridden);
    expect([sent.lines, sent.straight]).toEqual([[line(0, 60)], [0]]);
    expect(putBack(sent, ridden).straight).toEqual([line(0, 50)]);
    // One that came off its path since.
    expect(leaveOut(setting(line(0, 50)), ridden).straight).toBeUndefined();
    expect(() => putBack(sent, undefined)).toThrowError(/never sent/);
  });
});
