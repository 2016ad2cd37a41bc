import type { Rule } from '../rule';
import { strandedIn } from '../stranded';

/** A last line of one short word, with the least that takes it up. */
export const stranded: Rule = {
  id: 'stranded',
  pass: 'fit',
  name: 'Short last lines',
  looksAt: 'block',
  look: ({ block, setting, faces, limits }) =>
    strandedIn(block, setting, faces, limits).map(({ start, words, sizePt, mends: [best] }) => ({
      at: start,
      severity: 'fault',
      visiblePt: sizePt * 0.4,
      subject: words,
      message: best ? `short last line: ${best.says}` : 'short last line: no fix within the limits',
      ...(best ? { proposal: best.proposal } : {}),
    })),
};
