import { roundMilliem } from '../../units';
import type { Rule } from '../rule';

/** Share of the face's own word space that the visible word space may shrink or grow to. */
const LEAST_SHARE = 0.6;
const MOST_SHARE = 1.7;

/** Word space out of proportion to letter space: words run together, or the line falls into islands. */
export const wordSpace: Rule = {
  id: 'word-space',
  pass: 'tracking',
  name: 'Word space out of proportion',
  looksAt: 'block',
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
        message: seen > within ? 'word spaces too wide' : 'word spaces too narrow',
        changeMilliem: roundMilliem(wanted - wordSpaceMilliem),
        proposal: { style: { wordSpaceMilliem: wanted } },
      },
    ];
  },
};
