import { printSigned, roundMilliem } from '../units';
import type { Rule, Severity } from './finding';

/** Tracking beyond the limits. */
export const trackingLimit: Rule = {
  id: 'tracking-limit',
  need: 'T3',
  pass: 'tracking',
  name: 'Tracked beyond the limits',
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
        message: 'tighter than can be done unseen',
        changeMilliem: roundMilliem(limits.caution - trackingMilliem),
        proposal: { style: { trackingMilliem: limits.caution } },
      },
    ];
  },
};

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
  need: 'T2',
  pass: 'tracking',
  name: 'Tracking wrong for the size',
  look: ({ block }) => {
    const { trackingMilliem, sizePt } = block.style;
    const capitals = block.words === block.words.toUpperCase();
    const { least, most } = spanFor(sizePt, capitals);
    const within = Math.min(most, Math.max(least, trackingMilliem));
    if (within === trackingMilliem) return [];
    return [
      {
        at: 0,
        severity: 'notice',
        visiblePt: (Math.abs(within - trackingMilliem) * sizePt) / 1000,
        subject: printSigned(trackingMilliem),
        message: trackingMilliem > most ? 'loose for this size' : 'tight for this size',
        changeMilliem: roundMilliem(within - trackingMilliem),
        proposal: { style: { trackingMilliem: within } },
      },
    ];
  },
};

/** Share of the face's own word space that the visible word space may shrink or grow to. */
const LEAST_SHARE = 0.6;
const MOST_SHARE = 1.7;

/** Word space out of proportion to letter space: words run together, or the line falls into islands. */
export const wordSpace: Rule = {
  id: 'word-space',
  need: 'T4',
  pass: 'tracking',
  name: 'Word space out of proportion',
  look: ({ block, setting }) => {
    if (!block.words.includes(' ') || !setting.wordSpaceMilliem) return [];
    const { trackingMilliem, wordSpaceMilliem, sizePt } = block.style;
    const own = setting.wordSpaceMilliem;
    // Tracking stands on both sides of a word space.
    const seen = own + wordSpaceMilliem + 2 * trackingMilliem;
    // Letters that are tracked loosely want their words further apart as well.
    const fitting = own + Math.max(0, trackingMilliem);
    const within = Math.min(fitting * MOST_SHARE, Math.max(fitting * LEAST_SHARE, seen));
    if (Math.abs(within - seen) < 1) return [];
    const wanted = Math.round(wordSpaceMilliem + within - seen);
    return [
      {
        at: 0,
        severity: 'fault',
        visiblePt: (Math.abs(within - seen) * sizePt) / 1000,
        subject: `${Math.round((100 * seen) / own)} %`,
        message: seen > within ? 'word spaces tear the line apart' : 'word spaces too narrow: words run together',
        changeMilliem: roundMilliem(wanted - wordSpaceMilliem),
        proposal: { style: { wordSpaceMilliem: wanted } },
      },
    ];
  },
};
