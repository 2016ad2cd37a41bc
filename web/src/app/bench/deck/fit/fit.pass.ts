import { newFit, updateBlock } from '@jentrix/core/job';
import type { Pass } from '../../pass';
import { FitState } from './fit.state';

const NO_BREAK_SPACE = '\u00a0';

export const fitPass: Pass = {
  id: 'fit',
  name: 'Fit',
  key: 'u',
  hint: 'Give lines a width to fill by size, letters or words; below stand other ways to break them, each with its price.',
  help: 'fit-lines',
  deck: async () => (await import('./fit-deck')).FitDeck,
  overlay: ['line ends', 'frame handles'],
  needs: [],
  state: [FitState],
  keys: [
    {
      id: 'take-up',
      group: 'Letter space and lines',
      says: 'Take up the block’s stranded word by the least that does it',
      characters: ['='],
      run: ({ get }) => void get(FitState).takeUp(),
    },
    {
      id: 'fit',
      group: 'Letter space and lines',
      says: 'Fit the block’s lines to its frame by size; again, let go',
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
      says: 'Tie the two words at the caret together, so that no line ends between them; again, untie',
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
