import type { Pass } from '../../pass';
import { WordsState } from './words.state';

export const wordsPass: Pass = {
  id: 'words',
  name: 'Words',
  key: 'w',
  hint: 'Type or paste the words on the left; Enter breaks a line. The passes above are the way through, from left to right, and none of them locks anything.',
  help: 'begin',
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
