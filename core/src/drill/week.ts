/** Weeks, as histories are told in. */
const DAY = 86_400_000;

/** The Monday of a moment's week, in UTC. */
export function mondayOf(at: string): string {
  const day = Math.floor(Date.parse(at) / DAY);
  // 1 January 1970 was a Thursday.
  return new Date((day - ((day + 3) % 7)) * DAY).toISOString().slice(0, 10);
}
