/** Two rules on a picture met by two baselines: the first gives the angle, both together the leading. */
import type { Block } from '../job';
import { type BlockSetting, straightLines } from '../setting';
import { type RuleEnds, ruleAngle } from './guides';
import { type Point, middleOf } from './points';

/** Down from a line that leans, seen along it. */
const downFrom = (degrees: number): Point => {
  const radians = (degrees * Math.PI) / 180;
  return { xPt: -Math.sin(radians), yPt: Math.cos(radians) };
};
const between = (from: Point, to: Point, along: Point): number => (to.xPt - from.xPt) * along.xPt + (to.yPt - from.yPt) * along.yPt;
const middle = ({ from, to }: RuleEnds): Point => ({ xPt: (from.xPt + to.xPt) / 2, yPt: (from.yPt + to.yPt) / 2 });

/**
 * The angle and leading at which two baselines of a block run along two rules: the angle is the first one's, the leading their distance
 * there at the middle of the other. Leading of single lines goes.
 * @returns undefined where the rules are one.
 */
export function ledByRules(block: Block, first: RuleEnds, second: RuleEnds): Block | undefined {
  const degrees = ruleAngle(first);
  const pt = Math.abs(between(first.from, middle(second), downFrom(degrees)));
  if (pt < LEAST) return undefined;
  return { ...block, rotationDeg: degrees, leading: { kind: 'pt', pt }, lineLeading: [], paragraph: { ...block.paragraph, beforePt: 0, afterPt: 0 } };
}

/** Rules that are nearer to each other than this, in points, are one. */
const LEAST = 0.5;

/** A block so led, moved so that its first baseline stands on the upper of the rules. @param setting the block as it is led. */
export function movedOntoRules(block: Block, setting: BlockSetting, first: RuleEnds, second: RuleEnds): Block {
  const down = downFrom(block.rotationDeg);
  const upper = between(first.from, middle(second), down) >= 0 ? first.from : middle(second);
  const turnsAbout = middleOf(setting.frame);
  const baseline = straightLines(setting)[0]?.baselinePt ?? turnsAbout.yPt;
  const by = between(turnsAbout, upper, down) - (baseline - turnsAbout.yPt);
  return { ...block, frame: { ...block.frame, xPt: block.frame.xPt + by * down.xPt, yPt: block.frame.yPt + by * down.yPt } };
}
