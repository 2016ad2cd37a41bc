import fc from 'fast-check';
import { createSheet } from '../job';
import { setBlock } from '../setting';
import { headline, shippedFaces } from '../testing';
import { angleOf, areaOf, centreIn, isOnSheet, levelsFor, middleOf, movedGuide, snapBox, snapLines, turned } from '.';

describe('placing', () => {
  const sheet = { ...createSheet('s', 'Sheet', 1000, 500, 'pt'), safeShare: 0.1, guides: [{ axis: 'x' as const, atPt: 333 }] };
  const box = (leftPt: number, topPt: number) => ({ leftPt, topPt, rightPt: leftPt + 200, bottomPt: topPt + 100 });

  it('meets margins, guides, centres and the title-safe area, the nearest first, within tolerance', () => {
    const lines = snapLines(sheet, []);
    expect(snapBox(box(337, 240), [], lines, 6)).toEqual(jasmine.objectContaining({ xPt: -4, yPt: 0 }));
    expect(snapBox(box(337, 240), [], lines, 6).lines[0]?.kind).toBe('guide');
    expect(snapBox(box(402, 203), [], lines, 6)).toEqual(jasmine.objectContaining({ xPt: -2, yPt: -3 }));
    expect(snapBox(box(96, 48), [], lines, 6).lines.map(({ kind }) => kind)).toEqual(['title-safe', 'title-safe']);
    expect(snapBox(box(600, 300), [], lines, 0.5)).toEqual({ xPt: 0, yPt: 0, lines: [] });
  });

  it('meets other blocks by their edges, and baselines by baselines', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    const other = setBlock(headline('Two nights', { frame: { xPt: 40, yPt: 60, widthPt: 700, heightPt: 100 } }), faces);
    const lines = snapLines(sheet, [other]);
    const baseline = other.lines[0]?.baselinePt ?? 0;
    const snapped = snapBox(box(43, 20), [baseline + 2], lines, 6);
    expect(snapped.xPt).toBe(-3);
    expect(snapped.yPt).toBeCloseTo(-2, 6);
    expect(snapped.lines.map(({ kind }) => kind)).toEqual(['block edge', 'baseline']);
  });

  const rule = (fromX: number, fromY: number, toX: number, toY: number) => ({
    axis: 'rule' as const,
    from: { xPt: fromX, yPt: fromY },
    to: { xPt: toX, yPt: toY },
  });

  it('reads the angle of a rule whichever way it was drawn', () => {
    expect(angleOf(rule(0, 0, 100, 0))).toBe(0);
    expect(angleOf(rule(100, 0, 0, 0))).toBe(0);
    expect(angleOf(rule(0, 0, 50, 50))).toBeCloseTo(45, 9);
    expect(angleOf(rule(50, 50, 0, 0))).toBeCloseTo(45, 9);
    expect(angleOf(rule(0, 100, 0, 0))).toBe(90);
  });

  it('lets baselines meet level guides and the rules that run along them', () => {
    const frame = { xPt: 100, yPt: 100, widthPt: 400, heightPt: 200 };
    const guides = [{ axis: 'y' as const, atPt: 240 }, { axis: 'x' as const, atPt: 200 }, rule(0, 300, 600, 300), rule(0, 0, 100, 300)];
    expect(levelsFor(guides, 0, frame)).toEqual([
      { atPt: 240, kind: 'guide' },
      { atPt: 300, kind: 'rule' },
    ]);
    // A rule at 20 degrees does not run along level lines, but along those of a block that is turned by as much.
    const middle = middleOf(frame);
    const [from, to] = [-150, 150].map((along) => turned({ xPt: middle.xPt + along, yPt: middle.yPt + 60 }, middle, 20));
    const slope = { axis: 'rule' as const, from: from!, to: to! };
    expect(angleOf(slope)).toBeCloseTo(20, 9);
    expect(levelsFor([slope], 0, frame)).toEqual([]);
    const [level, ...more] = levelsFor([{ axis: 'y', atPt: 240 }, slope], 20, frame);
    expect(more).toEqual([]);
    expect(level?.kind).toBe('rule');
    expect(level?.atPt).toBeCloseTo(middle.yPt + 60, 9);
    expect(snapLines({ ...sheet, guides: [rule(0, 300, 600, 302), slope] }, []).filter(({ kind }) => kind === 'rule')).toEqual([
      { axis: 'y', atPt: 301, kind: 'rule' },
    ]);
  });

  it('moves a rule by as much as the pointer, or turns it by one end', () => {
    const drawn = rule(10, 20, 110, 20);
    const [from, to] = [
      { xPt: 50, yPt: 20 },
      { xPt: 57.04, yPt: 12.5 },
    ];
    expect(movedGuide(drawn, 'whole', from, to)).toEqual(rule(17, 12.5, 117, 12.5));
    expect(movedGuide(drawn, 'to', from, to)).toEqual(rule(10, 20, 117, 12.5));
    expect(movedGuide(drawn, 'from', from, to)).toEqual(rule(17, 12.5, 110, 20));
    expect(movedGuide({ axis: 'y', atPt: 20 }, 'whole', from, to)).toEqual({ axis: 'y', atPt: 12.5 });
    expect(movedGuide({ axis: 'x', atPt: 50 }, 'whole', from, to)).toEqual({ axis: 'x', atPt: 57 });
  });

  it('knows which guides have left the sheet', () => {
    const on = [{ axis: 'x' as const, atPt: 1000 }, { axis: 'y' as const, atPt: 0 }, rule(-50, -50, 10, 10)];
    const off = [{ axis: 'x' as const, atPt: 1000.1 }, { axis: 'y' as const, atPt: -0.1 }, rule(-50, -50, 10, -1), rule(1001, 0, 1200, 400)];
    expect(on.map((guide) => isOnSheet(guide, sheet))).toEqual([true, true, true]);
    expect(off.map((guide) => isOnSheet(guide, sheet))).toEqual([false, false, false, false]);
  });

  it('never moves farther than the tolerance', () => {
    const lines = snapLines(sheet, []);
    fc.assert(
      fc.property(fc.integer({ min: -200, max: 1200 }), fc.integer({ min: -200, max: 700 }), fc.integer({ min: 0, max: 20 }), (x, y, tolerance) => {
        const { xPt, yPt } = snapBox(box(x, y), [], lines, tolerance);
        expect(Math.max(Math.abs(xPt), Math.abs(yPt))).toBeLessThanOrEqual(tolerance);
      }),
    );
  });

  it('centres ink in an area', () => {
    const ink = { leftPt: 100, topPt: 50, rightPt: 300, bottomPt: 100 };
    expect(centreIn(ink, areaOf(sheet, 'sheet'), 'both')).toEqual({ xPt: 300, yPt: 175 });
    expect(centreIn(ink, areaOf(sheet, 'sheet'), 'x')).toEqual({ xPt: 300, yPt: 0 });
    // Margins that meet leave nothing, and never less.
    const none = areaOf({ ...sheet, margins: { topPt: 9000, rightPt: 9000, bottomPt: 9000, leftPt: 9000 } }, 'margins');
    expect([none.rightPt - none.leftPt, none.bottomPt - none.topPt].every((size) => size >= 0)).toBeTrue();
  });

  it('turns points around the middle of a frame and back', () => {
    const middle = middleOf({ xPt: 0, yPt: 0, widthPt: 200, heightPt: 100 });
    const there = turned({ xPt: 200, yPt: 50 }, middle, 90);
    expect([there.xPt, there.yPt].map((value) => Math.round(value))).toEqual([100, 150]);
    const back = turned(there, middle, -90);
    expect(back.xPt).toBeCloseTo(200, 9);
  });
});
