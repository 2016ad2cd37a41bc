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
export const median = (rounds: number, task: (round: number) => void): number => medians(rounds, task)[0] ?? Number.NaN;

/** Rounds that warm up before `medians` counts. */
export const WARM_UP = 20;

/** Median times of tasks that take turns, so that a machine that slows down slows all of them. */
export function medians(rounds: number, ...tasks: ((round: number) => void)[]): number[] {
  for (let i = 0; i < Math.min(WARM_UP, rounds); i++) for (const task of tasks) task(i);
  const samples = tasks.map((): number[] => []);
  for (let i = 0; i < rounds; i++) {
    tasks.forEach((task, t) => {
      const start = performance.now();
      task(i);
      samples[t]?.push(performance.now() - start);
    });
  }
  return samples.map((times) => percentile(times, 0.5));
}
