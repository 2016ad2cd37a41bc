import { inCapitals } from '../../advice';
import { printSigned, roundMilliem } from '../../units';
import type { Rule } from '../rule';

/** The span of tracking that a size bears, in 1/1000 em: large type wants none or a little less, small type a little more. */
function spanFor(sizePt: number, capitals: boolean): { least: number; most: number } {
  const more = capitals ? 60 : 0;
  if (sizePt >= 48) return { least: -60, most: 12 + more };
  if (sizePt >= 20) return { least: -40, most: 30 + more };
  return { least: -5, most: 60 + more };
}

/** Tracking that is wrong for the size. */
export const trackingSize: Rule = {
  id: 'tracking-size',
  pass: 'tracking',
  name: 'Tracking wrong for the size',
  looksAt: 'block',
  look: ({ block }) => {
    const { trackingMilliem, sizePt } = block.style;
    const capitals = inCapitals(block.words, block.style.case);
    const { least, most } = spanFor(sizePt, capitals);
    const within = Math.min(most, Math.max(least, trackingMilliem));
    if (within === trackingMilliem) return [];
    return [
      {
        at: 0,
        severity: 'notice',
        visiblePt: (Math.abs(within - trackingMilliem) * sizePt) / 1000,
        subject: printSigned(trackingMilliem),
        message: trackingMilliem > most ? 'too loose for this size' : 'too tight for this size',
        changeMilliem: roundMilliem(within - trackingMilliem),
        proposal: { style: { trackingMilliem: within } },
      },
    ];
  },
};
