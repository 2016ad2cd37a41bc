/** Inks that touch: since the block was tracked, or as they are kerned. */
import { roundMilliem } from '../../units';
import { pairOf } from '../finding';
import type { GapView, Rule } from '../rule';

/** Distance that two letters which touch are moved apart to, in 1/1000 em. */
const APART = 12;

/** The distance of inks that touch and shouldn't, in 1/1000 em: 0 or less. */
function overlapOf({ gap }: Pick<GapView, 'gap'>): number | undefined {
  const { distancePt, joined, sizePt } = gap;
  return distancePt === undefined || distancePt > 0 || joined ? undefined : (distancePt * 1000) / sizePt;
}

/** True where the letters stood apart before the block was tracked. */
const sinceTracking = (overlap: number, trackingMilliem: number): boolean => trackingMilliem < 0 && overlap - trackingMilliem > 0;

/** True for a gap whose inks touch as they are kerned: the other rules of kerning leave it to this one. */
export function touchesAsKerned(view: Pick<GapView, 'gap'>): boolean {
  const overlap = overlapOf(view);
  return overlap !== undefined && !sinceTracking(overlap, view.gap.trackingMilliem);
}

function rule(id: string, pass: string, need: string, name: string, message: string, ofTracking: boolean): Rule {
  return {
    id,
    need,
    pass,
    name,
    looksAt: 'gap',
    look: ({ block, gap }) => {
      const overlap = overlapOf({ gap });
      if (overlap === undefined || sinceTracking(overlap, gap.trackingMilliem) !== ofTracking) return [];
      // What the shapes propose, where that opens farther.
      const open = roundMilliem(Math.max(APART - overlap, ofTracking ? 0 : -gap.deviationMilliem));
      return [
        {
          at: gap.at,
          severity: 'severe',
          visiblePt: (open * gap.sizePt) / 1000,
          subject: pairOf(block, gap),
          message,
          changeMilliem: open,
          proposal: { hand: [{ at: gap.at, milliem: roundMilliem(gap.handMilliem + open) }] },
        },
      ];
    },
  };
}

export const touching = rule('touching', 'tracking', 'T5', 'Letters touch after tracking', 'touch since tracking', true);
export const inksTouch = rule('inks-touch', 'kerning', 'K4', 'Inks touch', 'inks touch', false);
