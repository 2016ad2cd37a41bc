import type { Pass } from '../../pass';
import { WordsState } from './words.state';

export const wordsPass: Pass = {
  id: 'words',
  name: 'Words',
  key: 'w',
  hint: 'Type or paste the words on the left; Enter breaks a line. Work through the passes from left to right. You can go back to any step.',
  help: 'begin',
  deck: async () => (await import('./words-deck')).WordsDeck,
  overlay: ['line ends', 'frame handles'],
  needs: [],
  state: [WordsState],
  keys: [
    {
      id: 'mend',
      group: 'Findings',
      says: 'Fix the words of this sheet: quotes, dashes, spaces and other findings',
      characters: ['m'],
      run: ({ store }) => store.acceptPass('words'),
    },
  ],
};
