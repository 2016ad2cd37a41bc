/** Remembering what was worked out, so that it is worked out once. */

/** A value cached as long as its object is there. */
export function knownOf<K extends object, V>(known: WeakMap<K, V>, of: K, make: () => V): V {
  let value = known.get(of);
  if (value === undefined) known.set(of, (value = make()));
  return value;
}

/** A value cached by key. @param most how many are kept: beyond that, all are let go. */
export function keptBy<K, V>(kept: Map<K, V>, key: K, most: number, make: () => V): V {
  let value = kept.get(key);
  if (value === undefined) {
    value = make();
    if (kept.size >= most) kept.clear();
    kept.set(key, value);
  }
  return value;
}
