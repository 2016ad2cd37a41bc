/** Prints rows as an aligned table; the first row is the head. */
export function printTable(title: string, rows: readonly (readonly string[])[]): void {
  const widths = rows[0]?.map((_, column) => Math.max(...rows.map((row) => row[column]?.length ?? 0))) ?? [];
  console.log(`\n${title}`);
  rows.forEach((row, i) => {
    console.log(row.map((cell, column) => (column === 0 ? cell.padEnd(widths[column] ?? 0) : cell.padStart(widths[column] ?? 0))).join('  '));
    if (i === 0) console.log(widths.map((width) => '-'.repeat(width)).join('  '));
  });
}

/** The value below which a share of the sorted samples lies. */
export function percentile(samples: readonly number[], share: number): number {
  const sorted = [...samples].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;
}

export const ms = (value: number): string => `${value < 10 ? value.toFixed(2) : value.toFixed(1)} ms`;
export const ratio = (value: number): string => `${value.toFixed(2)}x`;

/** Median time of a repeated task in milliseconds, after some rounds to warm up. */
export function median(rounds: number, task: (round: number) => void): number {
  for (let i = 0; i < Math.min(20, rounds); i++) task(i);
  return percentile(
    Array.from({ length: rounds }, (_, i) => {
      const start = performance.now();
      task(i);
      return performance.now() - start;
    }),
    0.5,
  );
}
