import type { KeyBinding, Pass } from '../../pass';
import { LOOKS, Looks } from '../../state/looks';
import { ProofState } from './proof.state';

export const proofPass: Pass = {
  id: 'proof',
  name: 'Proof',
  key: '!',
  hint: 'Keep a pull, make a change, then hold Space to swap before and after. All findings of the job are listed here.',
  help: 'match-a-scan',
  deck: async () => (await import('./proof-deck')).ProofDeck,
  overlay: [],
  needs: [],
  state: [ProofState],
  keys: [
    {
      id: 'keep-pull',
      reach: 'page',
      group: 'Proof',
      says: 'Keep a pull of the job as it is now',
      characters: ['*'],
      run: ({ get }) => void get(ProofState).keep(),
    },
    {
      id: 'hold-pull',
      group: 'Proof',
      shown: ['Space'],
      says: 'Hold to swap in the pull',
      matches: (event) => event.key === ' ' && !event.repeat,
      within: 'proof',
      run: ({ get }) => get(ProofState).ask('hold'),
    },
    {
      id: 'previous-open',
      within: 'proof',
      reach: 'page',
      group: 'Proof',
      says: 'Previous finding',
      characters: ['\\'],
      run: ({ get }) => get(ProofState).ask('previous'),
    },
    ...LOOKS.map((look): KeyBinding => ({
      id: `look-${look.id.replace(' ', '-')}`,
      group: 'Proof',
      says: `View: ${look.name.toLowerCase()}`,
      characters: [look.key],
      within: 'proof',
      run: ({ get, store }) => {
        get(Looks).toggle(look.id);
        if (look.id === 'three' && !store.view.gap) store.walk(1);
      },
    })),
    {
      id: 'read-along',
      group: 'Proof',
      says: 'Reading caret, at the pace of reading aloud',
      characters: ['9'],
      within: 'proof',
      run: ({ get }) => get(ProofState).ask('read'),
    },
    {
      id: 'look-plainly',
      group: 'Proof',
      says: 'Plain view',
      characters: ['8'],
      within: 'proof',
      run: ({ get }) => get(Looks).clear(),
    },
  ],
};
