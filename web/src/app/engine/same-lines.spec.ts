import type { BlockSetting, SetLine } from '@jentrix/core/setting';
import { leaveOut } from './leave-out';
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

  it('are sent by their place, and are the very same ones again on the other side', () => {
    const before = setting(line(0, 50), line(3, 40), line(6, 30));
    const after = { ...setting(line(0, 50), line(3, 41)), heightPt: 8 };
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
