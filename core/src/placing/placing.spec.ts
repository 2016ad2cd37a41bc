import fc from 'fast-check';
import { type Guide, createSheet, newPath } from '../job';
import { setBlock } from '../setting';
import { headline, shippedFaces } from '../testing';
import {
  AREAS,
  type SnapLine,
  ruleAngle,
  areaOf,
  centreIn,
  hasArea,
  isArea,
  isOnSheet,
  levelsFor,
  middleOf,
  movedGuide,
  snapBox,
  snapLines,
  turnedPoint,
} from '.';

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
    expect(ruleAngle(rule(0, 0, 100, 0))).toBe(0);
    expect(ruleAngle(rule(100, 0, 0, 0))).toBe(0);
    expect(ruleAngle(rule(0, 0, 50, 50))).toBeCloseTo(45, 9);
    expect(ruleAngle(rule(50, 50, 0, 0))).toBeCloseTo(45, 9);
    expect(ruleAngle(rule(0, 100, 0, 0))).toBe(90);
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
    const [from, to] = [-150, 150].map((along) => turnedPoint({ xPt: middle.xPt + along, yPt: middle.yPt + 60 }, middle, 20));
    const slope = { axis: 'rule' as const, from: from!, to: to! };
    expect(ruleAngle(slope)).toBeCloseTo(20, 9);
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
    const there = turnedPoint({ xPt: 200, yPt: 50 }, middle, 90);
    expect([there.xPt, there.yPt].map((value) => Math.round(value))).toEqual([100, 150]);
    const back = turnedPoint(there, middle, -90);
    expect(back.xPt).toBeCloseTo(200, 9);
  });

  it('gives the areas of a sheet, and knows which it has', () => {
    const margins = { topPt: 10, rightPt: 20, bottomPt: 30, leftPt: 40 };
    const guides = [
      { axis: 'x' as const, atPt: 700 },
      { axis: 'x' as const, atPt: 100 },
      { axis: 'x' as const, atPt: 300 },
      { axis: 'y' as const, atPt: 50 },
      rule(0, 0, 900, 0),
    ];
    const one = { ...sheet, margins, guides };
    expect(areaOf(one, 'sheet')).toEqual({ leftPt: 0, topPt: 0, rightPt: 1000, bottomPt: 500 });
    expect(areaOf(one, 'margins')).toEqual({ leftPt: 40, topPt: 10, rightPt: 980, bottomPt: 470 });
    expect(areaOf(one, 'safe')).toEqual({ leftPt: 100, topPt: 50, rightPt: 900, bottomPt: 450 });
    // One level guide is none; of upright ones the outermost.
    expect(areaOf(one, 'guides')).toEqual({ leftPt: 100, topPt: 0, rightPt: 700, bottomPt: 500 });
    expect(
      areaOf(
        {
          ...one,
          guides: [
            { axis: 'y', atPt: 400 },
            { axis: 'y', atPt: 60 },
          ],
        },
        'guides',
      ),
    ).toEqual({ leftPt: 0, topPt: 60, rightPt: 1000, bottomPt: 400 });
    const tight = areaOf({ ...one, margins: { topPt: 400, rightPt: 300, bottomPt: 200, leftPt: 800 } }, 'margins');
    expect(tight).toEqual({ leftPt: 750, topPt: 350, rightPt: 750, bottomPt: 350 });
    expect(areaOf({ ...one, margins: { topPt: 250, rightPt: 500, bottomPt: 250, leftPt: 500 } }, 'margins')).toEqual({
      leftPt: 500,
      topPt: 250,
      rightPt: 500,
      bottomPt: 250,
    });
    expect(AREAS.filter((area) => hasArea(one, area))).toEqual(['sheet', 'margins', 'safe', 'guides']);
    expect(AREAS.filter((area) => hasArea({ safeShare: 0, guides: [guides[0]!, guides[3]!, guides[4]!, guides[4]!] }, area))).toEqual(['sheet', 'margins']);
    expect([isArea('guides'), isArea('rules')]).toEqual([true, false]);
  });

  it('lists every line that a block can meet, by what it is', () => {
    const of = (change: Partial<typeof sheet>) =>
      snapLines({ ...sheet, safeShare: 0, guides: [], margins: { topPt: 10, rightPt: 20, bottomPt: 30, leftPt: 40 }, ...change }, []).map(
        ({ axis, atPt, kind }) => `${kind} ${axis} ${atPt}`,
      );
    const always = ['sheet edge x 0', 'sheet edge x 1000', 'sheet edge y 0', 'sheet edge y 500', 'margin x 40', 'margin x 980', 'margin y 10', 'margin y 470'];
    const centres = ['centre x 500', 'centre y 250'];
    expect(of({})).toEqual([...always, ...centres]);
    expect(of({ safeShare: 0.1 })).toEqual([...always, 'title-safe x 100', 'title-safe x 900', 'title-safe y 50', 'title-safe y 450', ...centres]);
    expect(of({ guides: [{ axis: 'x', atPt: 7 }] })).toEqual([...always, ...centres, 'guide x 7']);
  });

  it('lists the edges of other blocks, and baselines of those that are not on a path', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    const block = headline('Two\nnights', { frame: { xPt: 40, yPt: 60, widthPt: 700, heightPt: 300 } });
    const level = setBlock(block, faces);
    const arc = setBlock({ ...block, path: newPath('arc', block.frame, 100) }, faces);
    const kinds = (other: typeof level) => snapLines({ ...sheet, guides: [] }, [other]).filter(({ kind }) => kind === 'block edge' || kind === 'baseline');
    const edges = [40, 740].map((atPt) => ({ axis: 'x' as const, atPt, kind: 'block edge' as const }));
    expect(kinds(level).slice(0, 2)).toEqual(edges);
    expect(
      kinds(level)
        .slice(2, 4)
        .map(({ axis, atPt }) => `${axis} ${atPt}`),
    ).toEqual([`y ${level.frame.yPt}`, `y ${level.frame.yPt + level.frame.heightPt}`]);
    expect(kinds(level).slice(4)).toEqual(level.lines.map(({ baselinePt }) => ({ axis: 'y', atPt: baselinePt, kind: 'baseline' })));
    expect(kinds(arc).map(({ kind }) => kind)).toEqual(['block edge', 'block edge', 'block edge', 'block edge']);
  });

  it('meets each kind of line with what belongs on it, the nearest first', () => {
    const line = (axis: 'x' | 'y', atPt: number, kind: SnapLine['kind']): SnapLine => ({ axis, atPt, kind });
    const at = box(100, 100);
    const by = (lines: SnapLine[], baselines: number[] = [170]) => snapBox(at, baselines, lines, 6);
    // Edges and middles of the box, as far as the tolerance and no farther.
    for (const [x, moves] of [
      [106, 6],
      [94, -6],
      [306, 6],
      [204, 4],
      [107, 0],
      [93, 0],
    ] as const)
      expect(by([line('x', x, 'margin')]).xPt)
        .withContext(`${x}`)
        .toBe(moves);
    for (const [y, moves] of [
      [106, 6],
      [94, -6],
      [196, -4],
      [153, 3],
      [107, 0],
    ] as const)
      expect(by([line('y', y, 'margin')]).yPt)
        .withContext(`${y}`)
        .toBe(moves);
    // Baselines and rules are met by baselines alone, level guides by edges too.
    expect(by([line('y', 103, 'baseline')]).yPt).toBe(0);
    expect(by([line('y', 103, 'rule')]).yPt).toBe(0);
    expect(by([line('y', 172, 'baseline')]).yPt).toBe(2);
    expect(by([line('y', 172, 'rule')]).yPt).toBe(2);
    expect(by([line('y', 172, 'guide')]).yPt).toBe(2);
    expect(by([line('y', 103, 'guide')]).yPt).toBe(3);
    expect(by([line('y', 172, 'margin')]).yPt).toBe(0);
    expect(by([line('x', 103, 'guide')]).xPt).toBe(3);
    expect(by([line('x', 172, 'guide')], [172]).xPt).toBe(0);
    // The nearest; of two as near the first.
    const near = by([line('x', 105, 'margin'), line('x', 98, 'guide'), line('x', 102, 'centre')]);
    expect([near.xPt, near.lines.map(({ kind }) => kind)]).toEqual([-2, ['guide']]);
  });

  it('centres along one way or both', () => {
    const ink = { leftPt: 100, topPt: 50, rightPt: 300, bottomPt: 100 };
    const area = { leftPt: 50, topPt: 20, rightPt: 850, bottomPt: 420 };
    expect(centreIn(ink, area, 'both')).toEqual({ xPt: 250, yPt: 145 });
    expect(centreIn(ink, area, 'x')).toEqual({ xPt: 250, yPt: 0 });
    expect(centreIn(ink, area, 'y')).toEqual({ xPt: 0, yPt: 145 });
  });

  it('takes a rule that leans where it passes nearest to the middle of the block, whichever way it was drawn', () => {
    const frame = { xPt: 100, yPt: 100, widthPt: 400, heightPt: 200 };
    const at = (...ends: [number, number, number, number]) => levelsFor([rule(...ends)], 0, frame)[0]?.atPt;
    expect(at(0, 300, 600, 330)).toBeCloseTo(315, 9);
    expect(at(600, 330, 0, 300)).toBeCloseTo(315, 9);
    // It ends before the middle, or begins after it.
    expect(at(0, 300, 200, 310)).toBeCloseTo(310, 9);
    expect(at(400, 310, 800, 330)).toBeCloseTo(310, 9);
    expect(at(800, 330, 400, 310)).toBeCloseTo(310, 9);
    // A rule that is a point has its own height.
    expect(at(150, 333, 150, 333)).toBe(333);
    // Leaning by 5 degrees counts, by more not.
    const lean = (degrees: number) => levelsFor([rule(0, 200, 600, 200 + 600 * Math.tan((degrees * Math.PI) / 180))], 0, frame).length;
    expect([lean(4.99), lean(-4.99), lean(5.01), lean(-5.01)]).toEqual([1, 1, 0, 0]);
  });

  it('knows the ends of a sheet to the point', () => {
    const on = (guide: Guide) => isOnSheet(guide, sheet);
    expect([on({ axis: 'x', atPt: 0 }), on({ axis: 'x', atPt: -0.1 }), on({ axis: 'y', atPt: 500 }), on({ axis: 'y', atPt: 500.1 })]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    const ends = [
      [0, 0],
      [1000, 500],
      [1000, 0],
      [0, 500],
    ] as const;
    for (const [x, y] of ends)
      expect(on(rule(x, y, 2000, 2000)))
        .withContext(`${x} ${y}`)
        .toBeTrue();
    for (const [x, y] of [
      [-1, 0],
      [0, -1],
      [1001, 0],
      [0, 501],
    ] as const)
      expect(on(rule(x, y, 2000, 2000)))
        .withContext(`${x} ${y}`)
        .toBeFalse();
  });

  it('reads the angles of upright rules and of those drawn to the left', () => {
    expect(ruleAngle(rule(0, 0, 0, 100))).toBe(90);
    expect(ruleAngle(rule(100, 0, 0, 100))).toBeCloseTo(-45, 9);
    expect(ruleAngle(rule(0, 100, 100, 0))).toBeCloseTo(-45, 9);
    expect(ruleAngle(rule(100, 0, 0, -10))).toBeCloseTo(5.7106, 3);
  });
});
