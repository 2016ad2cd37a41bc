import type { Pass } from '../../pass';

export const facePass: Pass = {
  id: 'face',
  name: 'Face',
  key: 'f',
  hint: 'Settle the face before anything is kerned: each is shown in your words, with what it would do to widths and line breaks.',
  help: 'space-a-headline',
  deck: async () => (await import('./face-deck')).FaceDeck,
  overlay: ['frame handles'],
  needs: [],
  state: [],
  keys: [],
};
