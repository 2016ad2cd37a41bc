/** True where two values say the same as JSON: the order of members means nothing, nor whether one is missing or undefined. */
export function sameValue(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null) return Number.isNaN(one) && Number.isNaN(other);
  if (Array.isArray(one) || Array.isArray(other)) {
    return Array.isArray(one) && Array.isArray(other) && one.length === other.length && one.every((member, i) => sameValue(member, other[i]));
  }
  const [first, second] = [one, other] as Record<string, unknown>[] as [Record<string, unknown>, Record<string, unknown>];
  return [...new Set([...Object.keys(first), ...Object.keys(second)])].every((key) => sameValue(first[key], second[key]));
}
