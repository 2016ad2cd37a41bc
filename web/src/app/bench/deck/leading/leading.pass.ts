import { relead, styleAt } from '@jentrix/core/job';
import { leadingPoints } from '@jentrix/core/units';
import { type Pass, code } from '../../pass';

export const leadingPass: Pass = {
  id: 'leading',
  name: 'Leading',
  key: 'l',
  deck: async () => (await import('./leading-deck')).LeadingDeck,
  overlay: ['line handles'],
  needs: ['line gaps'],
  state: [],
  keys: [
    {
      group: 'Letter space and lines',
      shown: [',', '.'],
      says: 'Less or more leading',
      matches: code('Comma', 'Period'),
      run: ({ store, preferences, gesture }, event) => {
        const { block } = store;
        if (!block) return;
        const step = (event.shiftKey ? preferences.coarseLeadingPt : preferences.fineLeadingPt) * (event.code === 'Comma' ? -1 : 1);
        const pt = leadingPoints(block.leading, styleAt(block, 0).sizePt) + step;
        store.apply((job) => relead(job, block.id, { kind: 'pt', pt: Math.max(0, Math.round(pt * 100) / 100) }), gesture);
      },
    },
  ],
};
