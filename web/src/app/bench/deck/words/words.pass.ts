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
  keys: [],
};
