import { USUAL_EDGES, withBlockSettings } from '@jentrix/core/job';
import type { Pass } from '../../pass';
import { FadedMarks } from '../../state/faded-marks';

export const edgesPass: Pass = {
  id: 'edges',
  name: 'Edges',
  key: 'p',
  hint: 'Align by eye: quotes and points hang outside, and round letters reach a little past the edge. The enlarged margins show it.',
  help: 'align-edges',
  deck: async () => (await import('./edges-deck')).EdgesDeck,
  overlay: ['frame handles', 'true edges'],
  needs: [],
  state: [],
  keys: [
    {
      id: 'by-eye',
      group: 'Letter space and lines',
      says: 'Align the block’s edges by what is seen; again, by side bearings',
      characters: ['|'],
      run: ({ store }) => {
        const { block } = store;
        if (block && !block.locked) store.apply((job) => withBlockSettings(job, block.id, { edges: block.edges ? null : USUAL_EDGES }));
      },
    },
    {
      id: 'fade-marks',
      group: 'Letter space and lines',
      says: 'Fades punctuation on the sheet while it is held',
      characters: ['`', '^'],
      codes: ['Backquote'],
      run: ({ get }) => get(FadedMarks).hold(),
    },
  ],
};
