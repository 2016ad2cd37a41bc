import { type Pass, isPlain } from '../../pass';
import { KerningState } from './kerning.state';

export const kerningPass: Pass = {
  id: 'kerning',
  name: 'Kerning',
  key: 'k',
  hint: 'Click between two letters. ↑ and ↓ open and close the gap; ← and → move on. The bar shows how far off it is.',
  help: 'space-a-headline',
  deck: async () => (await import('./kerning-deck')).KerningDeck,
  overlay: [],
  needs: [],
  state: [KerningState],
  keys: [
    {
      id: 'type-value',
      group: 'Gaps',
      shown: ['0–9', '−'],
      says: 'Type the manual value',
      matches: (event) => isPlain(event) && /^[0-9.,+\-−]$/.test(event.key) && !['Comma', 'Period'].includes(event.code),
      run: ({ store, get }, event) => {
        if (!store.view.gap) return;
        if (store.view.pass !== 'kerning') store.showPass('kerning');
        get(KerningState).type(event.key);
      },
    },
    {
      id: 'hold-white',
      reach: 'page',
      group: 'Gaps',
      says: 'Hold the white of this gap as a guide for others; again to release',
      characters: ['g'],
      run: ({ get }) => get(KerningState).toggleGuide(),
    },
    {
      id: 'give-white',
      group: 'Gaps',
      says: 'Give the held white to this gap or the picked letters. With none held: give this gap’s white to its kind in the line',
      characters: ['#'],
      run: ({ get }) => void get(KerningState).giveHere(),
    },
    {
      id: 'compare-sources',
      reach: 'page',
      group: 'Gaps',
      says: 'Compare kerning: font, weighed, by shape, none',
      characters: ['c'],
      run: ({ get }) => get(KerningState).showRibbon('sources'),
    },
    {
      id: 'three-letters',
      reach: 'page',
      group: 'Gaps',
      says: 'Show three letters only',
      characters: ['o'],
      run: ({ get }) => get(KerningState).showRibbon('three'),
    },
  ],
};
