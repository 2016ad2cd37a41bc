import { USUAL_EDGES, withBlockSettings } from '@jentrix/core/job';
import type { Pass } from '../../pass';
import { FadedMarks } from '../../state/faded-marks';

export const edgesPass: Pass = {
  id: 'edges',
  name: 'Edges',
  key: 'p',
  hint: 'Hang quotes and points outside the edge. Round letters reach slightly past it. The enlarged margins show how far.',
  help: 'align-edges',
  deck: async () => (await import('./edges-deck')).EdgesDeck,
  overlay: ['frame handles', 'true edges'],
  needs: [],
  state: [],
  keys: [
    {
      id: 'by-eye',
      group: 'Letter space and lines',
      says: 'Switch the block between optical and metric edges',
      characters: ['|'],
      run: ({ store }) => {
        const { block } = store;
        if (block && !block.locked) store.apply((job) => withBlockSettings(job, block.id, { edges: block.edges ? null : USUAL_EDGES }));
      },
    },
    {
      id: 'fade-marks',
      group: 'Letter space and lines',
      says: 'Hold to dim punctuation on the sheet',
      characters: ['`', '^'],
      codes: ['Backquote'],
      run: ({ get }) => get(FadedMarks).hold(),
    },
  ],
};
