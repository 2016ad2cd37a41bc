import { roundMilliem } from '../../units';
import { pairOf } from '../finding';
import type { Rule } from '../rule';

/** Distance that two letters which touch are moved apart to, in 1/1000 em. */
const APART = 12;

/** Letters that stood apart and touch since the block was tracked. */
export const touching: Rule = {
  id: 'touching',
  need: 'T5',
  pass: 'tracking',
  name: 'Letters touch after tracking',
  looksAt: 'gap',
  look: ({ block, gap }) => {
    if (gap.distancePt === undefined || gap.distancePt > 0 || gap.trackingMilliem >= 0) return [];
    const distance = (gap.distancePt * 1000) / gap.sizePt;
    if (distance - gap.trackingMilliem <= 0) return [];
    const open = roundMilliem(APART - distance);
    return [
      {
        at: gap.at,
        severity: 'severe',
        visiblePt: (open * gap.sizePt) / 1000,
        subject: pairOf(block, gap),
        message: 'touch since tracking',
        changeMilliem: open,
        proposal: { hand: [{ at: gap.at, milliem: roundMilliem(gap.handMilliem + open) }] },
      },
    ];
  },
};
