/** Small letters typed as plain ones: `CO2`, `m2`, `1st`, `10^-6`. */
import { styleAt } from '../../job';
import { smallChanges, smallForms, typedSmalls } from '../../superiors';
import type { Rule } from '../rule';

/** Share of the type size that a figure that should be small is to the eye. */
const SEEN = 0.4;

/** Letters that are small already in any way. */
const isSmall = ({ baselineShiftMilliem, features }: ReturnType<typeof styleAt>): boolean =>
  baselineShiftMilliem !== 0 || ['sups', 'subs', 'sinf', 'ordn', 'numr'].some((tag) => (features[tag] ?? 0) > 0);

export const typedSmall: Rule = {
  id: 'typed-small',
  pass: 'shift',
  name: 'Superiors and inferiors as plain letters',
  looksAt: 'block',
  look: ({ block, faces }) =>
    typedSmalls(block.words).flatMap(({ kind, range, splice, shown }) => {
      const style = styleAt(block, range.start);
      if (isSmall(style)) return [];
      const edited = splice ? block.words.slice(0, splice.start) + splice.insert + block.words.slice(splice.end) : block.words;
      const text = edited.slice(range.start, range.end);
      const [form] = smallForms(faces.instance(style), text, kind, style);
      if (!form) return [];
      return [
        {
          at: range.start,
          severity: 'notice',
          visiblePt: style.sizePt * SEEN,
          subject: shown,
          message: `set ${kind === 'ordinal' ? 'as an ordinal' : kind}: ${form.says}`,
          proposal: {
            ...(splice ? { words: [splice] } : {}),
            ranges: smallChanges(edited, [range], form).map(({ start, end, change }) => ({ start, end, style: change })),
          },
        },
      ];
    }),
};
