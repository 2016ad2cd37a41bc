import { headline, shippedFaces } from '../testing';
import { type FaceSet, setBlock } from '../setting';
import { ledByRules, middleOf, movedOntoRules, turnedPoint } from '.';

describe('two rules', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });
  const rule = (x1: number, y1: number, x2: number, y2: number) => ({ from: { xPt: x1, yPt: y1 }, to: { xPt: x2, yPt: y2 } });

  it('are met by the first two baselines, whichever was drawn first and however they lean', () => {
    for (const [first, second] of [
      [rule(100, 400, 500, 320), rule(130, 560, 530, 480)],
      [rule(130, 560, 530, 480), rule(100, 400, 500, 320)],
      [rule(500, 300, 100, 300), rule(100, 410, 500, 410)],
    ] as const) {
      const led = ledByRules(headline('TWO\nLINES', { frame: { xPt: 40, yPt: 90, widthPt: 500, heightPt: 200 } }), first, second)!;
      const met = movedOntoRules(led, setBlock(led, faces), first, second);
      const set = setBlock(met, faces);
      const onSheet = set.lines.map(({ leftPt, baselinePt }) => turnedPoint({ xPt: leftPt, yPt: baselinePt }, middleOf(set.frame), met.rotationDeg));
      const [upper, lower] = first.from.yPt < second.from.yPt ? [first, second] : [second, first];
      for (const [point, { from, to }] of [
        [onSheet[0]!, upper],
        [onSheet[1]!, lower],
      ] as const) {
        // Away from the rule, across it.
        const across = (to.xPt - from.xPt) * (point.yPt - from.yPt) - (to.yPt - from.yPt) * (point.xPt - from.xPt);
        expect(across / Math.hypot(to.xPt - from.xPt, to.yPt - from.yPt)).toBeCloseTo(0, 6);
      }
    }
    expect(ledByRules(headline('A\nB'), rule(0, 0, 9, 0), rule(3, 0, 5, 0))).toBeUndefined();
  });

  it('give angle and leading to the block, and take its single leadings and the room between its paragraphs', () => {
    const block = headline('A\nB');
    const spaced = { ...block, lineLeading: [{ at: 1, byPt: 9 }], paragraph: { ...block.paragraph, beforePt: 3, afterPt: 4, list: 'bullet' as const } };
    const led = ledByRules(spaced, rule(0, 0, 300, 0), rule(0, 110, 300, 110));
    expect(led).toEqual(jasmine.objectContaining({ rotationDeg: 0, leading: { kind: 'pt', pt: 110 }, lineLeading: [] }));
    expect(led?.paragraph).toEqual(jasmine.objectContaining({ beforePt: 0, afterPt: 0, list: 'bullet' }));
  });

  it('are one where they are nearer than half a point', () => {
    const block = headline('A\nB');
    expect(ledByRules(block, rule(0, 0, 300, 0), rule(0, 0.49, 300, 0.49))).toBeUndefined();
    expect(ledByRules(block, rule(0, 0, 300, 0), rule(0, 0.5, 300, 0.5))?.leading).toEqual({ kind: 'pt', pt: 0.5 });
  });
});
