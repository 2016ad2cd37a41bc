import type { Pass } from '../../pass';

export const facePass: Pass = {
  id: 'face',
  name: 'Face',
  key: 'f',
  deck: async () => (await import('./face-deck')).FaceDeck,
  overlay: ['frame handles'],
  needs: [],
  state: [],
  keys: [],
};
