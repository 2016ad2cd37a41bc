import { newFit, updateBlock } from '@jentrix/core/job';
import type { Pass } from '../../pass';
import { FitState } from './fit.state';

const NO_BREAK_SPACE = '\u00a0';

export const fitPass: Pass = {
  id: 'fit',
  name: 'Fit',
  key: 'u',
  hint: 'Fit lines to a width by size, letters or words. Breaks shows other line breaks, each with its cost.',
  help: 'fit-lines',
  deck: async () => (await import('./fit-deck')).FitDeck,
  overlay: ['line ends', 'frame handles'],
  needs: [],
  state: [FitState],
  keys: [
    {
      id: 'take-up',
      group: 'Letter space and lines',
      says: 'Pull up the last word of the block by the smallest change',
      characters: ['='],
      run: ({ get }) => void get(FitState).takeUp(),
    },
    {
      id: 'fit',
      group: 'Letter space and lines',
      says: 'Fit the block’s lines to its frame by size; again to release',
      characters: ['%'],
      run: ({ store, get }) => {
        const state = get(FitState);
        if (store.block?.fit) void state.letGo();
        else void state.fit(newFit());
      },
    },
    {
      id: 'tie',
      group: 'Letter space and lines',
      says: 'Keep the two words at the caret together on one line; again to separate',
      characters: ['_'],
      run: ({ store }) => {
        const { block, view } = store;
        const at = view.gap?.at;
        if (!block || block.locked || at === undefined) return;
        // The blank at the caret, or next to it.
        const place = [at, at - 1].find((one) => /[ \u00a0]/.test(block.words.charAt(one)));
        if (place === undefined) return;
        const tied = block.words.charAt(place) === NO_BREAK_SPACE ? ' ' : NO_BREAK_SPACE;
        store.apply((job) => updateBlock(job, block.id, (now) => ({ ...now, words: now.words.slice(0, place) + tied + now.words.slice(place + 1) })));
      },
    },
  ],
};
