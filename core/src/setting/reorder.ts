/** Reorder stage: the runs of one line as they stand (UAX #9, rule L2). */

/** Runs of one line, given in the order of the words, in the order they stand in. The list itself where nothing moves. */
export function inVisualOrder<T extends { level: number }>(runs: readonly T[]): readonly T[] {
  let highest = 0;
  for (const { level } of runs) if (level > highest) highest = level;
  if (highest === 0) return runs;
  const ordered = [...runs];
  for (let level = highest; level > 0; level--) {
    for (let from = 0; from < ordered.length; from++) {
      let to = from;
      while (to < ordered.length && (ordered[to]?.level ?? 0) >= level) to++;
      if (to - from > 1) ordered.splice(from, to - from, ...ordered.slice(from, to).reverse());
      if (to > from) from = to;
    }
  }
  return ordered;
}
