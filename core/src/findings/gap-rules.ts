import { roundMilliem } from '../units';
import { type Rule, type Severity, pairOf } from './finding';

/** Smaller deviations from the proposal are left to the designer's taste, in 1/1000 em. */
const NOTICED = 15;
/** Deviations that are smaller than this on the sheet are not seen, in points. */
const VISIBLE_PT = 0.5;
const FAULT = 25;
const SEVERE = 60;

const severityOf = (deviation: number): Severity => (deviation >= SEVERE ? 'severe' : deviation >= FAULT ? 'fault' : 'notice');

function deviationRule(id: string, name: string, sign: 1 | -1, message: string): Rule {
  return {
    id,
    need: 'K4',
    pass: 'kerning',
    name,
    look: ({ block, lines }) =>
      lines
        .flat()
        .filter(({ deviationMilliem, sizePt }) => deviationMilliem * sign >= NOTICED && (Math.abs(deviationMilliem) * sizePt) / 1000 >= VISIBLE_PT)
        .map((gap) => ({
          at: gap.at,
          severity: severityOf(Math.abs(gap.deviationMilliem)),
          visiblePt: (Math.abs(gap.deviationMilliem) * gap.sizePt) / 1000,
          subject: pairOf(block, gap),
          message,
          changeMilliem: roundMilliem(-gap.deviationMilliem),
          proposal: { hand: [{ at: gap.at, milliem: roundMilliem(gap.handMilliem - gap.deviationMilliem) }] },
        })),
  };
}

export const gapOpen = deviationRule('gap-open', 'Gap too open', 1, 'too open');
export const gapTight = deviationRule('gap-tight', 'Gap too tight', -1, 'too tight');

/** Distance that two letters which touch are moved apart to, in 1/1000 em. */
const APART = 12;

/** Letters that stood apart and touch since the block was tracked. */
export const touching: Rule = {
  id: 'touching',
  need: 'T5',
  pass: 'tracking',
  name: 'Letters touch after tracking',
  look: ({ block, lines }) =>
    lines.flat().flatMap((gap) => {
      if (gap.distancePt === undefined || gap.distancePt > 0 || gap.trackingMilliem >= 0) return [];
      const distance = (gap.distancePt * 1000) / gap.sizePt;
      if (distance - gap.trackingMilliem <= 0) return [];
      const open = roundMilliem(APART - distance);
      return [
        {
          at: gap.at,
          severity: 'severe' as const,
          visiblePt: (open * gap.sizePt) / 1000,
          subject: pairOf(block, gap),
          message: 'touch since tracking',
          changeMilliem: open,
          proposal: { hand: [{ at: gap.at, milliem: roundMilliem(gap.handMilliem + open) }] },
        },
      ];
    }),
};

/** The same two letters in one style, kerned differently: the more common kerning is proposed for all. */
export const samePair: Rule = {
  id: 'same-pair',
  need: 'K5',
  pass: 'kerning',
  name: 'Same pair, different kerning',
  look: ({ block, lines }) => {
    const groups = new Map<string, { at: number; hand: number; total: number; sizePt: number; pair: string }[]>();
    for (const gap of lines.flat()) {
      const pair = pairOf(block, gap);
      if (gap.atSpace) continue;
      const key = `${pair} ${gap.sizePt} ${gap.source}`;
      groups.set(key, [...(groups.get(key) ?? []), { at: gap.at, hand: gap.handMilliem, total: gap.totalMilliem, sizePt: gap.sizePt, pair }]);
    }
    return [...groups.values()].flatMap((gaps) => {
      const counts = new Map<number, number>();
      for (const { hand } of gaps) counts.set(hand, (counts.get(hand) ?? 0) + 1);
      if (counts.size < 2) return [];
      // The most common value; among equals one that was set by hand.
      const common = [...counts].sort((a, b) => b[1] - a[1] || Math.abs(b[0]) - Math.abs(a[0]))[0]?.[0] ?? 0;
      return gaps
        .filter(({ hand }) => hand !== common)
        .map(({ at, hand, sizePt, pair }) => ({
          at,
          severity: 'fault' as const,
          visiblePt: (Math.abs(common - hand) * sizePt) / 1000,
          subject: pair,
          message: 'kerned differently elsewhere in this block',
          changeMilliem: roundMilliem(common - hand),
          proposal: { hand: [{ at, milliem: common }] },
        }));
    });
  },
};
