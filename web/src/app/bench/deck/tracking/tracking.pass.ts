import { nudgeTracking, nudgeWordSpace } from '@jentrix/core/job';
import { type Pass, code, stepOf } from '../../pass';
import { TrackingState } from './tracking.state';

export const trackingPass: Pass = {
  id: 'tracking',
  name: 'Tracking',
  key: 't',
  deck: async () => (await import('./tracking-deck')).TrackingDeck,
  overlay: ['line handles'],
  needs: [],
  state: [TrackingState],
  keys: [
    {
      group: 'Letter space and lines',
      shown: ['[', ']'],
      says: 'Track the picked letters, or the block, tighter or looser; with Shift by the coarse step',
      matches: code('BracketLeft', 'BracketRight'),
      run: (context, event) => {
        const { block, range } = context.store;
        const by = (event.code === 'BracketLeft' ? -1 : 1) * stepOf(context, event);
        const link = context.get(TrackingState).wordSpaceLink;
        if (block) context.store.apply((job) => nudgeTracking(job, block.id, by, range, link), context.gesture);
      },
    },
    {
      group: 'Letter space and lines',
      shown: [';', '’'],
      says: 'Close or open the word spaces',
      matches: code('Semicolon', 'Quote'),
      run: (context, event) => {
        const { block, range } = context.store;
        const by = (event.code === 'Semicolon' ? -1 : 1) * stepOf(context, event);
        if (block) context.store.apply((job) => nudgeWordSpace(job, block.id, by, range), context.gesture);
      },
    },
  ],
};
