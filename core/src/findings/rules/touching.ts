/** Inks that touch: since the block was tracked, or as they are kerned. */
import { ARM_MM } from '../../advice';
import { printValue, roundMilliem } from '../../units';
import { pairOf } from '../finding';
import type { GapView, Rule } from '../rule';

/** Distance that two letters which touch are moved apart to, in 1/1000 em. */
const APART = 12;

/**
 * Inks nearer than this touch to the eye, in points at arm's length (half a minute of arc); but no white is taken for none that is wider
 * than this, in 1/1000 em.
 */
const SEEN_APART_PT = 0.15;
const MOST_UNSEEN = 4;

/** The distance of inks that touch as they are seen, and shouldn't, in 1/1000 em. */
function overlapOf({ gap, distanceMm }: Pick<GapView, 'gap' | 'distanceMm'>): number | undefined {
  const { distancePt, joined, sizePt } = gap;
  if (distancePt === undefined || joined) return undefined;
  const milliem = (distancePt * 1000) / sizePt;
  return milliem > Math.min(MOST_UNSEEN, (1000 * SEEN_APART_PT * distanceMm) / ARM_MM / sizePt) ? undefined : milliem;
}

/** Inks that overlap by less than this touch, in points. */
const DEEP_PT = 0.05;

/** True where the letters stood apart before the block was tracked. */
const sinceTracking = (overlap: number, trackingMilliem: number): boolean => trackingMilliem < 0 && overlap - trackingMilliem > 0;

/** True for a gap whose inks touch as they are kerned: the other rules of kerning leave it to this one. */
export function touchesAsKerned(view: Pick<GapView, 'gap' | 'distanceMm'>): boolean {
  const overlap = overlapOf(view);
  return overlap !== undefined && !sinceTracking(overlap, view.gap.trackingMilliem);
}

function rule(id: string, pass: Rule['pass'], name: string, message: string, ofTracking: boolean): Rule {
  return {
    id,
    pass,
    name,
    looksAt: 'gap',
    look: (view) => {
      const { block, gap } = view;
      const overlap = overlapOf(view);
      if (overlap === undefined || sinceTracking(overlap, gap.trackingMilliem) !== ofTracking) return [];
      // The least that parts them; or what the gap should hold, where that opens farther.
      const open = roundMilliem(Math.max(APART - overlap, ofTracking ? 0 : -gap.deviationMilliem));
      return [
        {
          at: gap.at,
          severity: 'severe',
          visiblePt: (open * gap.sizePt) / 1000,
          subject: pairOf(block, gap),
          message: (gap.distancePt ?? 0) < -DEEP_PT ? `overlap by ${printValue(-(gap.distancePt ?? 0), 2)} pt${ofTracking ? ' since tracking' : ''}` : message,
          changeMilliem: open,
          proposal: { hand: [{ at: gap.at, milliem: roundMilliem(gap.handMilliem + open) }] },
        },
      ];
    },
  };
}

export const touching = rule('touching', 'tracking', 'Letters touch after tracking', 'letters touch because of tracking', true);
export const inksTouch = rule('inks-touch', 'kerning', 'Letters touch', 'letters touch', false);
