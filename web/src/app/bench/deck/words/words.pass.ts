import type { Pass } from '../../pass';
import { WordsState } from './words.state';

export const wordsPass: Pass = {
  id: 'words',
  name: 'Words',
  key: 'w',
  deck: async () => (await import('./words-deck')).WordsDeck,
  overlay: ['line ends', 'frame handles'],
  needs: [],
  state: [WordsState],
  keys: [
    {
      id: 'mend',
      group: 'Findings',
      says: 'Mend the words of this sheet: quotes, dashes, spaces and what else is found in them',
      characters: ['m'],
      run: ({ store }) => store.acceptPass('words'),
    },
  ],
};
