import type { Rule } from '../rule';
import { shortLastLineIn } from '../short-last-line';

/** A last line of one short word, with the least that takes it up. */
export const shortLastLine: Rule = {
  id: 'stranded',
  pass: 'fit',
  name: 'Short last lines',
  looksAt: 'block',
  look: ({ block, setting, faces, limits }) =>
    shortLastLineIn(block, setting, faces, limits).map(({ start, words, sizePt, fixes: [best] }) => ({
      at: start,
      severity: 'fault',
      visiblePt: sizePt * 0.4,
      subject: words,
      message: best ? `short last line: ${best.says}` : 'short last line: no fix within the limits',
      ...(best ? { proposal: best.proposal } : {}),
    })),
};
