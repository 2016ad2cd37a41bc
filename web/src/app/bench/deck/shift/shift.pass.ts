import { type ShiftNumber, type WordRange, nudgeLetters } from '@jentrix/core/job';
import { LetterPicks } from '../../state/letter-picks';
import { type KeyContext, type Pass, stepOf } from '../../pass';

/** Turns go by this many degrees, and with Shift by so many. */
const FINE_TURN = 1;
const COARSE_TURN = 15;

/** The picked letters, while they are shown: in other passes nothing is done to them. */
const shownPicks = ({ store, get }: KeyContext): readonly WordRange[] => (store.view.pass === 'shift' ? get(LetterPicks).value : []);

/** Adds to a value of the picked letters. */
function nudge(context: KeyContext, key: ShiftNumber, by: number): void {
  const { store, gesture } = context;
  const { block } = store;
  const picks = shownPicks(context);
  if (block && picks.length > 0) store.apply((job) => nudgeLetters(job, block.id, picks, key, by), gesture);
}

export const shiftPass: Pass = {
  id: 'shift',
  name: 'Shift',
  key: 's',
  hint: 'Pick letters by clicking or dragging, then raise, rotate or scale them. Superiors, paths and end letters are here too.',
  help: 'shift-letters',
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
      says: 'In Shift: rotate the picked letters by 1°; with ⇧ by 15°',
      characters: ['q', 'e'],
      run: (context, event, which) => nudge(context, 'turnDeg', (which === 0 ? -1 : 1) * (event.shiftKey ? COARSE_TURN : FINE_TURN)),
    },
    {
      id: 'move-letters',
      group: 'Letters',
      says: 'In Shift: move the picked letters along the line; with ⇧ by the coarse step',
      characters: ['j', 'h'],
      run: (context, event, which) => nudge(context, 'moveMilliem', (which === 0 ? -1 : 1) * stepOf(context, event)),
    },
    {
      id: 'pick-all-letters',
      group: 'Letters',
      says: 'In Shift: pick all letters of the block, or the same letters',
      characters: ['a', 'y'],
      run: ({ store, get }, _event, which) => {
        if (store.view.pass === 'shift') get(LetterPicks).pickKind(which === 0 ? 'all' : 'same');
      },
    },
  ],
};
