/**
 * The one way to remember what was worked out. Caches that hold one value a key, checked against what it was made from, keep a map of their own:
 * there is nothing to share.
 */

/** A value cached as long as its object is there. */
export function knownOf<K extends object, V>(known: WeakMap<K, V>, of: K, make: () => V): V {
  let value = known.get(of);
  if (value === undefined) known.set(of, (value = make()));
  return value;
}

/**
 * A value cached by key.
 * @param most how many are kept: beyond that the oldest goes, one for each that comes. Not the least recently used, since sorting at every
 * hit costs more than the few that are made again (packages that do so also set aside room for all `most` at once, font by font).
 */
export function keptBy<K, V>(kept: Map<K, V>, key: K, most: number, make: () => V): V {
  let value = kept.get(key);
  if (value === undefined) {
    value = make();
    if (kept.size >= most) for (const oldest of kept.keys()) if (kept.delete(oldest)) break;
    kept.set(key, value);
  }
  return value;
}
