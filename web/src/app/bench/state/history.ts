/** Undo and redo over immutable states. States share all parts that an edit left alone, so a deep history is cheap. */

/** How many steps can be undone. */
export const HISTORY_DEPTH = 1000;

export interface History<T> {
  readonly past: readonly T[];
  readonly present: T;
  readonly future: readonly T[];
  /** The gesture the present belongs to; a further edit of the same gesture joins its step. */
  readonly gesture: string | undefined;
}

export function startHistory<T>(present: T): History<T> {
  return { past: [], present, future: [], gesture: undefined };
}

/** Takes a new state. An edit that belongs to the gesture of the one before makes no step of its own. */
export function record<T>(history: History<T>, next: T, gesture?: string): History<T> {
  if (next === history.present) return history;
  if (gesture !== undefined && gesture === history.gesture) return { ...history, present: next, future: [] };
  return { past: [...history.past, history.present].slice(-HISTORY_DEPTH), present: next, future: [], gesture };
}

/** Takes another state in place of the present one: the step that led there leads to it. */
export function amend<T>(history: History<T>, next: T): History<T> {
  return next === history.present ? history : { ...history, present: next, future: [] };
}

/** Ends the running gesture: the next edit is a step of its own. */
export function endGesture<T>(history: History<T>): History<T> {
  return history.gesture === undefined ? history : { ...history, gesture: undefined };
}

export function undo<T>(history: History<T>): History<T> {
  const { past, present, future } = history;
  const previous = past[past.length - 1];
  if (previous === undefined) return history;
  return { past: past.slice(0, -1), present: previous, future: [present, ...future], gesture: undefined };
}

export function redo<T>(history: History<T>): History<T> {
  const { past, present, future } = history;
  const next = future[0];
  if (next === undefined) return history;
  return { past: [...past, present], present: next, future: future.slice(1), gesture: undefined };
}

/** The same steps over other states: what came from elsewhere is in all of them, and undo takes back only what was done here. */
export function rebase<T>(history: History<T>, present: T, change: (state: T) => T): History<T> {
  return { ...history, past: history.past.map(change), present, future: history.future.map(change) };
}
