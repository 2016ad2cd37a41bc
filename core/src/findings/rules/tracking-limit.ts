import { printSigned, roundMilliem } from '../../units';
import type { Severity } from '../finding';
import type { Rule } from '../rule';

/** Tracking beyond the limits. */
export const trackingLimit: Rule = {
  id: 'tracking-limit',
  pass: 'tracking',
  name: 'Tracking over the limits',
  looksAt: 'block',
  look: ({ block, limits }) => {
    const { trackingMilliem, sizePt } = block.style;
    if (trackingMilliem >= limits.caution) return [];
    const severity: Severity = trackingMilliem < limits.out ? 'severe' : trackingMilliem < limits.strong ? 'fault' : 'notice';
    return [
      {
        at: 0,
        severity,
        visiblePt: ((limits.caution - trackingMilliem) * sizePt) / 1000,
        subject: printSigned(trackingMilliem),
        message: 'visibly tight',
        changeMilliem: roundMilliem(limits.caution - trackingMilliem),
        proposal: { style: { trackingMilliem: limits.caution } },
      },
    ];
  },
};
