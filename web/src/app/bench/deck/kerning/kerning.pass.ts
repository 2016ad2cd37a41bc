import { type Pass, isPlain, key } from '../../pass';
import { KerningState } from './kerning.state';

export const kerningPass: Pass = {
  id: 'kerning',
  name: 'Kerning',
  key: 'k',
  deck: async () => (await import('./kerning-deck')).KerningDeck,
  overlay: [],
  needs: [],
  state: [KerningState],
  keys: [
    {
      group: 'Gaps',
      shown: ['0–9', '−'],
      says: 'Type the hand value',
      matches: (event) => isPlain(event) && /^[0-9.,+\-−]$/.test(event.key) && !['Comma', 'Period'].includes(event.code),
      run: ({ store, get }, event) => {
        if (!store.view.gap) return;
        if (store.view.pass !== 'kerning') store.showPass('kerning');
        get(KerningState).type(event.key);
      },
    },
    {
      group: 'Gaps',
      shown: ['G'],
      says: 'Hold the white of this gap as a guide, to lay into others; again to let go',
      matches: key('g', 'G'),
      run: ({ get }) => get(KerningState).toggleGuide(),
    },
    {
      group: 'Gaps',
      shown: ['C'],
      says: 'Compare the line kerned from the font, by shape and not at all',
      matches: key('c', 'C'),
      run: ({ get }) => get(KerningState).showRibbon('sources'),
    },
    {
      group: 'Gaps',
      shown: ['O'],
      says: 'Look at three letters only',
      matches: key('o', 'O'),
      run: ({ get }) => get(KerningState).showRibbon('three'),
    },
  ],
};
