import { nudgeLetters } from '@jentrix/core/job';
import { LetterPicks } from '../../state/letter-picks';
import { type KeyContext, type Pass, stepOf } from '../../pass';

/** Turns go by this many degrees, and with Shift by so many. */
const FINE_TURN = 1;
const COARSE_TURN = 15;

/** Adds to a value of the picked letters. */
function nudge({ store, get, gesture }: KeyContext, key: Parameters<typeof nudgeLetters>[3], by: number): void {
  const { block } = store;
  const picks = get(LetterPicks).value;
  if (block && picks.length > 0) store.apply((job) => nudgeLetters(job, block.id, picks, key, by), gesture);
}

export const shiftPass: Pass = {
  id: 'shift',
  name: 'Shift',
  key: 's',
  deck: async () => (await import('./shift-deck')).ShiftDeck,
  overlay: ['letters'],
  needs: [],
  state: [],
  arrows: (context, event) => {
    const picks = context.get(LetterPicks);
    if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
      picks.walk(event.key === 'ArrowLeft' ? -1 : 1, event.shiftKey);
      return;
    }
    if (picks.value.length === 0) picks.walk(1, false);
    else nudge(context, 'baselineShiftMilliem', (event.key === 'ArrowUp' ? 1 : -1) * stepOf(context, event));
  },
  keys: [
    {
      id: 'turn-letters',
      group: 'Letters',
      says: 'Turn the picked letters by a degree, left and right; with Shift by 15',
      characters: ['q', 'e'],
      run: (context, event, which) => nudge(context, 'turnDeg', (which === 0 ? -1 : 1) * (event.shiftKey ? COARSE_TURN : FINE_TURN)),
    },
    {
      id: 'move-letters',
      group: 'Letters',
      says: 'Move the picked letters along the line; with Shift by the coarse step',
      characters: ['j', 'h'],
      run: (context, event, which) => nudge(context, 'moveMilliem', (which === 0 ? -1 : 1) * stepOf(context, event)),
    },
    {
      id: 'pick-all-letters',
      group: 'Letters',
      says: 'Pick all letters of the block, or these letters everywhere',
      characters: ['a', 'y'],
      run: ({ get }, _event, which) => get(LetterPicks).pickKind(which === 0 ? 'all' : 'same'),
    },
  ],
};
