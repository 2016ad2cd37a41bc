import { roundMilliem } from '../../units';
import { pairOf } from '../finding';
import type { Rule } from '../rule';

/** The same two letters in one style, kerned differently: the more common kerning is proposed for all. */
export const samePair: Rule = {
  id: 'same-pair',
  pass: 'kerning',
  name: 'Same pair, different kerning',
  looksAt: 'block',
  look: ({ block, lines }) => {
    // It is by hand alone that they come to differ.
    if (block.hand.length === 0) return [];
    const groups = new Map<string, { at: number; hand: number; sizePt: number; pair: string }[]>();
    for (const gap of lines.flat()) {
      const pair = pairOf(block, gap);
      if (gap.atSpace) continue;
      const key = `${pair} ${gap.sizePt} ${gap.source}`;
      const one = { at: gap.at, hand: gap.handMilliem, sizePt: gap.sizePt, pair };
      const group = groups.get(key);
      if (group) group.push(one);
      else groups.set(key, [one]);
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
