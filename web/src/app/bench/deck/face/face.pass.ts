import type { Pass } from '../../pass';

export const facePass: Pass = {
  id: 'face',
  name: 'Face',
  key: 'f',
  hint: 'Choose the face before you kern. Each is set in your words, with its widths and line breaks.',
  help: 'space-a-headline',
  deck: async () => (await import('./face-deck')).FaceDeck,
  overlay: ['frame handles'],
  needs: [],
  state: [],
  keys: [],
};
