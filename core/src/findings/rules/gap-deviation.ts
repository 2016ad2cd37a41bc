/** Gaps that are too open or too tight beside what they should hold. */
import { ARM_MM } from '../../advice';
import { NOTICED } from '../../spacing';
import { roundMilliem } from '../../units';
import { type Severity, pairOf } from '../finding';
import type { GapView, Rule } from '../rule';
import { touchesAsKerned } from './touching';

/** Deviations that are smaller than this on a sheet at arm's length are not seen, in points: about 1.5 minutes of arc. */
const VISIBLE_PT = 0.5;
/** Letters that are seen larger than this, in points at arm's length, are held to a finer measure, down to this share of the usual one. */
const LARGE_PT = 48;
const FINEST = 2 / 3;

/**
 * From which deviation on a gap is found wrong, in 1/1000 em of its size: what can be seen from where the sheet is read, and what
 * designers agree on, less of it the larger the letters are seen.
 */
export function noticedAt(sizePt: number, distanceMm: number): number {
  const nearer = ARM_MM / distanceMm;
  const agreed = NOTICED * Math.max(FINEST, Math.min(1, Math.cbrt(LARGE_PT / (sizePt * nearer))));
  return Math.max(agreed, (1000 * VISIBLE_PT) / (sizePt * nearer));
}
/** Inks that are kept apart by the least distance alone may stand this far apart before the gap is open, in 1/1000 em: about what designers leave there. */
const COMFORTABLE = 60;
const FAULT = 25;
const SEVERE = 60;

const severityOf = (deviation: number): Severity => (deviation >= SEVERE ? 'severe' : deviation >= FAULT ? 'fault' : 'notice');

/** True where the same pair has the same value by hand elsewhere in the block: set twice alike, it is what the designer wants. */
function isSettled({ block, gap, lines }: GapView): boolean {
  const { at, handMilliem, sizePt, source } = gap;
  if (handMilliem === 0) return false;
  const pair = pairOf(block, gap);
  return lines.some((gaps) =>
    gaps.some(
      (other) => other.at !== at && other.handMilliem === handMilliem && other.sizePt === sizePt && other.source === source && pairOf(block, other) === pair,
    ),
  );
}

function deviationRule(id: string, name: string, sign: 1 | -1, message: string): Rule {
  return {
    id,
    pass: 'kerning',
    name,
    looksAt: 'gap',
    look: (view) => {
      const { block, gap } = view;
      const { at, deviationMilliem, sizePt, handMilliem, certainty } = gap;
      const visiblePt = (Math.abs(deviationMilliem) * sizePt) / 1000;
      if (deviationMilliem * sign < noticedAt(sizePt, view.distanceMm) || touchesAsKerned(view) || isSettled(view)) return [];
      if (sign > 0 && gap.limit === 'touching' && (gap.distancePt ?? 0) * 1000 <= COMFORTABLE * sizePt) return [];
      return [
        {
          at,
          severity: severityOf(Math.abs(deviationMilliem)),
          visiblePt,
          certainty,
          subject: pairOf(block, gap),
          message,
          ...(gap.pair ? { judged: { kind: gap.pair, plainMilliem: gap.plainMilliem, shouldMilliem: gap.shouldMilliem, totalMilliem: gap.totalMilliem } } : {}),
          changeMilliem: roundMilliem(-deviationMilliem),
          proposal: { hand: [{ at, milliem: roundMilliem(handMilliem - deviationMilliem) }] },
        },
      ];
    },
  };
}

export const gapOpen = deviationRule('gap-open', 'Gap too open', 1, 'too open');
export const gapTight = deviationRule('gap-tight', 'Gap too tight', -1, 'too tight');
