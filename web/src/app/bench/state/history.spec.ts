import { type History, HISTORY_DEPTH, endGesture, hold, rebase, record, recordHeld, redo, endGestureIn, remembered, startHistory, undo } from './history';

/** An edit that leads to a state, whatever was before. */
const to = <T>(history: History<T>, next: T, gesture?: string): History<T> => record(history, () => next, gesture);

describe('history', () => {
  it('undoes and redoes one step a gesture', () => {
    let history = startHistory(0);
    history = to(history, 1, 'drag');
    history = to(history, 2, 'drag');
    history = to(history, 3, 'key');
    expect(undo(history).present).toBe(2);
    expect(undo(undo(history)).present).toBe(0);
    expect(redo(undo(undo(history))).present).toBe(2);
    history = to(endGesture(history), 4, 'key');
    expect(undo(history).present).toBe(3);
  });

  it('takes no step where nothing changed, and forgets the future on a new edit', () => {
    const start = startHistory('a');
    expect(to(start, 'a')).toBe(start);
    expect(undo(start)).toBe(start);
    expect(redo(start)).toBe(start);
    const edited = to(undo(to(start, 'b')), 'c');
    expect(edited.future).toEqual([]);
    expect(edited.past).toEqual(['a']);
  });

  it('is at least 200 deep', () => {
    expect(HISTORY_DEPTH).toBeGreaterThanOrEqual(200);
    let history = startHistory(0);
    for (let i = 1; i <= 250; i++) history = to(history, i);
    for (let i = 0; i < 200; i++) history = undo(history);
    expect(history.present).toBe(50);
  });

  it('has what came from elsewhere in every state, so that undo takes back only what was done here', () => {
    let history = to(to(startHistory({ own: 0, other: 0 }), { own: 1, other: 0 }), { own: 2, other: 0 });
    history = undo(history);
    const came = rebase(history, { own: 1, other: 5 }, (state) => ({ ...state, other: 5 }));
    expect([came.present, undo(came).present, redo(came).present]).toEqual([
      { own: 1, other: 5 },
      { own: 0, other: 5 },
      { own: 2, other: 5 },
    ]);
  });

  describe('with a gesture under way', () => {
    type Counts = Readonly<Record<string, number>>;
    const start: Counts = { mine: 0, other: 0 };
    const by =
      (key: string, amount: number) =>
      (state: Counts): Counts => ({ ...state, [key]: (state[key] ?? 0) + amount });

    it('each of its edits starts from where it began, and all are one step', () => {
      let history = hold(to(startHistory(start), { mine: 1, other: 0 }), 'drag');
      for (const amount of [1, 2, 3]) history = recordHeld(history, 'drag', by('mine', amount));
      expect([history.present, undo(history).present]).toEqual([
        { mine: 4, other: 0 },
        { mine: 1, other: 0 },
      ]);
      history = recordHeld(endGestureIn(history, 'drag'), 'drag', by('mine', 9));
      expect(history.present['mine']).toBe(4);
    });

    it('goes on from what others changed meanwhile, and takes none of it back', () => {
      let history = recordHeld(hold(startHistory(start), 'drag'), 'drag', by('mine', 5));
      history = rebase(history, by('other', 7)(history.present), by('other', 7));
      history = recordHeld(history, 'drag', by('mine', 6));
      expect(history.present).toEqual({ mine: 6, other: 7 });
      expect(undo(history).present).toEqual({ mine: 0, other: 7 });
      // Before its first edit too.
      const early = rebase(hold(startHistory(start), 'drag'), by('other', 7)(start), by('other', 7));
      expect(recordHeld(early, 'drag', by('mine', 1)).present).toEqual({ mine: 1, other: 7 });
    });

    it('keeps an edit that is made beside it, and is not ended by a key', () => {
      let history = recordHeld(hold(startHistory(start), 'drag'), 'drag', by('mine', 5));
      history = record(endGesture(history), by('other', 1));
      history = recordHeld(history, 'drag', by('mine', 6));
      expect(history.present).toEqual({ mine: 6, other: 1 });
      const without = recordHeld(endGesture(recordHeld(hold(startHistory(start), 'drag'), 'drag', by('mine', 5))), 'drag', by('mine', 6));
      expect([without.present['mine'], without.past.length]).toEqual([6, 1]);
    });

    it('ends with undo, and leaves no step where it comes back to its beginning', () => {
      const dragged = recordHeld(hold(startHistory(start), 'drag'), 'drag', by('mine', 5));
      expect(recordHeld(undo(dragged), 'drag', by('mine', 6)).present).toEqual(start);
      const back = recordHeld(dragged, 'drag', (state) => state);
      expect([back.present, back.past]).toEqual([start, []]);
      expect(recordHeld(back, 'drag', by('mine', 2)).past).toEqual([start]);
    });
  });

  it('has the steps of an earlier visit before its own', () => {
    const history = remembered(to(startHistory('b'), 'c'), ['a'], []);
    expect([history.past, undo(undo(history)).present]).toEqual([['a', 'b'], 'a']);
    expect(redo(remembered(startHistory('b'), ['a'], ['c'])).present).toBe('c');
  });
});
