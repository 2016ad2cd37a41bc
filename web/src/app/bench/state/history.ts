/** Undo and redo over immutable states. States share all parts that an edit left alone, so a deep history is cheap. */

/** How many steps can be undone. */
export const HISTORY_DEPTH = 1000;

export interface History<T> {
  readonly past: readonly T[];
  readonly present: T;
  readonly future: readonly T[];
  /** The gesture the present belongs to; a further edit of the same gesture joins its step. */
  readonly gesture: string | undefined;
  /** A gesture under way, such as a drag: each of its edits starts from the state it began with, and replaces the one before. */
  readonly held: { readonly id: string; readonly start: T } | undefined;
}

export function startHistory<T>(present: T): History<T> {
  return { past: [], present, future: [], gesture: undefined, held: undefined };
}

/** Puts earlier steps before those there are. @param future steps that can be made again, where none were made since */
export function remembered<T>(history: History<T>, past: readonly T[], future: readonly T[]): History<T> {
  return { ...history, past: [...past, ...history.past].slice(-HISTORY_DEPTH), future: [...history.future, ...future] };
}

/** Makes an edit. One that belongs to the gesture of the edit before makes no step of its own. */
export function record<T>(history: History<T>, edit: (state: T) => T, gesture?: string): History<T> {
  const { held } = history;
  const next = edit(history.present);
  if (next === history.present) return history;
  // A gesture under way goes on from a state that has this edit as well.
  return step(held ? { ...history, held: { ...held, start: edit(held.start) } } : history, next, gesture);
}

function step<T>(history: History<T>, next: T, gesture: string | undefined): History<T> {
  if (gesture !== undefined && gesture === history.gesture) return { ...history, present: next, future: [] };
  return { ...history, past: [...history.past, history.present].slice(-HISTORY_DEPTH), present: next, future: [], gesture };
}

/** Begins a gesture whose edits all start from the present. */
export function hold<T>(history: History<T>, id: string): History<T> {
  return { ...history, gesture: undefined, held: { id, start: history.present } };
}

/** Makes an edit of a gesture under way; of one that has ended it makes none. An edit that changes nothing takes the gesture's step away. */
export function recordHeld<T>(history: History<T>, id: string, edit: (start: T) => T): History<T> {
  const { held, past, present } = history;
  if (held?.id !== id) return history;
  const next = edit(held.start);
  if (next === present) return history;
  if (history.gesture === id && next === held.start && next === past[past.length - 1]) {
    return { ...history, past: past.slice(0, -1), present: next, gesture: undefined };
  }
  return step(history, next, id);
}

/** Ends a gesture that is under way. */
export function endGestureIn<T>(history: History<T>, id: string): History<T> {
  return history.held?.id === id ? { ...history, gesture: undefined, held: undefined } : history;
}

/** Takes another state in place of the present one: the step that led there leads to it. */
export function amend<T>(history: History<T>, next: T): History<T> {
  return next === history.present ? history : { ...history, present: next, future: [] };
}

/** Ends the running gesture: the next edit is a step of its own. A gesture under way goes on. */
export function endGesture<T>(history: History<T>): History<T> {
  const { gesture, held } = history;
  return gesture === undefined || gesture === held?.id ? history : { ...history, gesture: undefined };
}

/** Takes the last step back. A gesture under way ends with that. */
export function undo<T>(history: History<T>): History<T> {
  const { past, present, future } = history;
  const previous = past[past.length - 1];
  if (previous === undefined) return history;
  return { ...startHistory(previous), past: past.slice(0, -1), future: [present, ...future] };
}

/** Makes the step that was taken back last once more. */
export function redo<T>(history: History<T>): History<T> {
  const { past, present, future } = history;
  const next = future[0];
  if (next === undefined) return history;
  return { ...startHistory(next), past: [...past, present], future: future.slice(1) };
}

/** The same steps over other states: what came from elsewhere is in all of them, and undo takes back only what was done here. */
export function rebase<T>(history: History<T>, present: T, change: (state: T) => T): History<T> {
  const { past, future, held } = history;
  const last = past[past.length - 1];
  const changed = past.map(change);
  // The state a gesture began with stays the one its step leads back to.
  const start = held && (held.start === last ? changed[changed.length - 1] : held.start === history.present ? present : undefined);
  return {
    ...history,
    past: changed,
    present,
    future: future.map(change),
    held: held && { id: held.id, start: start ?? change(held.start) },
  };
}
