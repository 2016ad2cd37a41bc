import { HISTORY_DEPTH, endGesture, rebase, record, redo, startHistory, undo } from './history';

describe('history', () => {
  it('undoes and redoes one step a gesture', () => {
    let history = startHistory(0);
    history = record(history, 1, 'drag');
    history = record(history, 2, 'drag');
    history = record(history, 3, 'key');
    expect(undo(history).present).toBe(2);
    expect(undo(undo(history)).present).toBe(0);
    expect(redo(undo(undo(history))).present).toBe(2);
    history = record(endGesture(history), 4, 'key');
    expect(undo(history).present).toBe(3);
  });

  it('takes no step where nothing changed, and forgets the future on a new edit', () => {
    const start = startHistory('a');
    expect(record(start, 'a')).toBe(start);
    expect(undo(start)).toBe(start);
    expect(redo(start)).toBe(start);
    const edited = record(undo(record(start, 'b')), 'c');
    expect(edited.future).toEqual([]);
    expect(edited.past).toEqual(['a']);
  });

  it('is at least 200 deep', () => {
    expect(HISTORY_DEPTH).toBeGreaterThanOrEqual(200);
    let history = startHistory(0);
    for (let i = 1; i <= 250; i++) history = record(history, i);
    for (let i = 0; i < 200; i++) history = undo(history);
    expect(history.present).toBe(50);
  });

  it('has what came from elsewhere in every state, so that undo takes back only what was done here', () => {
    let history = record(record(startHistory({ own: 0, other: 0 }), { own: 1, other: 0 }), { own: 2, other: 0 });
    history = undo(history);
    const came = rebase(history, { own: 1, other: 5 }, (state) => ({ ...state, other: 5 }));
    expect([came.present, undo(came).present, redo(came).present]).toEqual([
      { own: 1, other: 5 },
      { own: 0, other: 5 },
      { own: 2, other: 5 },
    ]);
  });
});
