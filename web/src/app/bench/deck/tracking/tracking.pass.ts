import { nudgeTracking, nudgeWordSpace } from '@jentrix/core/job';
import { type Pass, stepOf } from '../../pass';
import { TrackingState } from './tracking.state';

export const trackingPass: Pass = {
  id: 'tracking',
  name: 'Tracking',
  key: 't',
  hint: 'Larger type wants tighter tracking. Drag the handle at a line’s end, or apply the value the curve recommends.',
  help: 'track-and-lead',
  deck: async () => (await import('./tracking-deck')).TrackingDeck,
  overlay: ['line handles'],
  needs: [],
  state: [TrackingState],
  keys: [
    {
      id: 'track',
      group: 'Letter space and lines',
      says: 'Track the picked letters, or the block, tighter or looser; with ⇧ by the coarse step',
      characters: ['[', ']'],
      codes: ['BracketLeft', 'BracketRight'],
      run: (context, event, which) => {
        const { block, range } = context.store;
        const by = (which === 0 ? -1 : 1) * stepOf(context, event);
        const link = context.get(TrackingState).wordSpaceLink;
        if (block) context.store.apply((job) => nudgeTracking(job, block.id, by, range, link), context.gesture);
      },
    },
    {
      id: 'word-space',
      group: 'Letter space and lines',
      says: 'Close or open the word spaces',
      characters: [';', "'"],
      codes: ['Semicolon', 'Quote'],
      run: (context, event, which) => {
        const { block, range } = context.store;
        const by = (which === 0 ? -1 : 1) * stepOf(context, event);
        if (block) context.store.apply((job) => nudgeWordSpace(job, block.id, by, range), context.gesture);
      },
    },
  ],
};
