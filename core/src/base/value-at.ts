/**
 * A number of a list, where the index is known to be inside.
 * @throws RangeError for one outside: an index off by one is seen, and not taken for a zero
 */
export function valueAt(list: ArrayLike<number>, index: number): number {
  const value = list[index];
  if (value === undefined) throw new RangeError(`Place ${index} is outside of a list of ${list.length}.`);
  return value;
}
