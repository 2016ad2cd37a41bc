/**
 * Plain data that shares all parts with an earlier state that say the same, so that what was made of a part is found again by the part
 * itself. What comes as a message is otherwise new in all its parts.
 * @param before not changed, and taken over in parts
 * @returns `before` itself where both say the same
 */
export function shareEqual<T>(before: unknown, next: T): T {
  if (Object.is(before, next)) return next;
  if (Array.isArray(next)) {
    if (!Array.isArray(before)) return next;
    const parts = next.map((part: unknown, i) => shareEqual(before[i], part));
    return (parts.length === before.length && parts.every((part, i) => part === before[i]) ? before : parts) as T;
  }
  if (!isObject(next) || !isObject(before) || Array.isArray(before)) return next;
  const keys = Object.keys(next);
  const parts = Object.fromEntries(keys.map((key) => [key, shareEqual(before[key], next[key])]));
  return (keys.length === Object.keys(before).length && keys.every((key) => key in before && parts[key] === before[key]) ? before : parts) as T;
}

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;
