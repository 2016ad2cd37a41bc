import { relead, styleAt } from '@jentrix/core/job';
import { leadingPoints } from '@jentrix/core/units';
import type { Pass } from '../../pass';

export const leadingPass: Pass = {
  id: 'leading',
  name: 'Leading',
  key: 'l',
  hint: 'Drag a line up or down on the sheet. The ladder shows the clear space between inks.',
  help: 'track-and-lead',
  deck: async () => (await import('./leading-deck')).LeadingDeck,
  overlay: ['line handles'],
  needs: ['line gaps'],
  state: [],
  keys: [
    {
      id: 'leading',
      group: 'Letter space and lines',
      says: 'Less or more leading',
      characters: [',', '.'],
      codes: ['Comma', 'Period'],
      run: ({ store, preferences, gesture }, event, which) => {
        const { block } = store;
        if (!block) return;
        const step = (event.shiftKey ? preferences.coarseLeadingPt : preferences.fineLeadingPt) * (which === 0 ? -1 : 1);
        const pt = leadingPoints(block.leading, styleAt(block, 0).sizePt) + step;
        store.apply((job) => relead(job, block.id, { kind: 'pt', pt: Math.max(0, Math.round(pt * 100) / 100) }), gesture);
      },
    },
  ],
};
