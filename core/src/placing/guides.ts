/** Guides and rules: lines of the sheet that blocks and baselines are brought to. */
import type { Guide, Sheet } from '../job';
import type { BlockSetting } from '../setting';
import { type Point, middleOf, turnedPoint } from './points';

/** The ends of a rule. */
export type RuleEnds = Pick<Extract<Guide, { axis: 'rule' }>, 'from' | 'to'>;

/** The dragged part of a guide: all of it, or one end of a rule. */
export type GuidePart = 'whole' | 'from' | 'to';

/** How far a rule may lean against the lines that are to stand on it, in degrees. */
const LEAN = 5;

/** The angle of a rule against the level, clockwise on the sheet, in degrees between -90 and 90. */
export function ruleAngle({ from, to }: RuleEnds): number {
  const [dx, dy] = [to.xPt - from.xPt, to.yPt - from.yPt];
  const degrees = (Math.atan2(dy, dx) * 180) / Math.PI;
  return degrees > 90 ? degrees - 180 : degrees <= -90 ? degrees + 180 : degrees;
}

/**
 * Where the baselines of a block can meet guides and rules, in the block's own unturned space: level guides while the block is
 * not turned, and rules that run along its lines.
 */
export function levelsFor(guides: readonly Guide[], rotationDeg: number, frame: BlockSetting['frame']): { atPt: number; kind: 'guide' | 'rule' }[] {
  const middle = middleOf(frame);
  return guides.flatMap((guide): { atPt: number; kind: 'guide' | 'rule' }[] => {
    if (guide.axis === 'y') return rotationDeg === 0 ? [{ atPt: guide.atPt, kind: 'guide' }] : [];
    if (guide.axis === 'x') return [];
    const [from, to] = [turnedPoint(guide.from, middle, -rotationDeg), turnedPoint(guide.to, middle, -rotationDeg)];
    if (!runsAlong({ from, to })) return [];
    // The height of the rule where it passes nearest to the middle of the block.
    const x = Math.min(Math.max(from.xPt, to.xPt), Math.max(Math.min(from.xPt, to.xPt), middle.xPt));
    const share = to.xPt === from.xPt ? 0 : (x - from.xPt) / (to.xPt - from.xPt);
    return [{ atPt: from.yPt + share * (to.yPt - from.yPt), kind: 'rule' }];
  });
}

/** True for a rule that lines can stand on as they are. */
export const runsAlong = (rule: RuleEnds): boolean => Math.abs(ruleAngle(rule)) <= LEAN;

const tenth = (pt: number): number => Math.round(pt * 10) / 10;

/**
 * A guide as it was when it was taken hold of, moved by as much as the pointer; to a tenth of a point.
 * @param from where the pointer took it, @param to where the pointer is.
 */
export function movedGuide(guide: Guide, part: GuidePart, from: Point, to: Point): Guide {
  if (guide.axis !== 'rule') return { ...guide, atPt: tenth(guide.axis === 'x' ? to.xPt : to.yPt) };
  const moved = ({ xPt, yPt }: Point): Point => ({ xPt: tenth(xPt + to.xPt - from.xPt), yPt: tenth(yPt + to.yPt - from.yPt) });
  return { ...guide, from: part === 'to' ? guide.from : moved(guide.from), to: part === 'from' ? guide.to : moved(guide.to) };
}

/** True while some of a guide is on the sheet: what was dragged off it goes. */
export function isOnSheet(guide: Guide, { widthPt, heightPt }: Pick<Sheet, 'widthPt' | 'heightPt'>): boolean {
  if (guide.axis === 'x') return guide.atPt >= 0 && guide.atPt <= widthPt;
  if (guide.axis === 'y') return guide.atPt >= 0 && guide.atPt <= heightPt;
  return [guide.from, guide.to].some(({ xPt, yPt }) => xPt >= 0 && xPt <= widthPt && yPt >= 0 && yPt <= heightPt);
}
