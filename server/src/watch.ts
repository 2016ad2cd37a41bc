/** Tells when the main thread was held up, for tests and benchmarks that must know. */
import { readFileSync } from 'node:fs';

/** How often the thread should come by, and how late it must be to be told of, in milliseconds. */
const TICK_MS = 5;
const TOLD_MS = 25;

/** Time the main thread has had the processor, in milliseconds; undefined where the system doesn't say (Linux does, in nanoseconds). */
function processorMs(): number | undefined {
  try {
    return Number(readFileSync(`/proc/self/task/${process.pid}/schedstat`, 'utf8').split(' ')[0]) / 1e6;
  } catch {
    return undefined;
  }
}

/** Writes a line `held WALL CPU` (milliseconds) to standard error whenever nothing else could run on the main thread for a while. */
export function watchHolds(): void {
  let last = performance.now();
  let lastProcessor = processorMs();
  setInterval(() => {
    const now = performance.now();
    const processor = processorMs();
    const heldMs = now - last - TICK_MS;
    if (heldMs > TOLD_MS) console.error(`held ${heldMs.toFixed(0)} ${((processor ?? heldMs) - (lastProcessor ?? 0)).toFixed(0)}`);
    last = now;
    lastProcessor = processor;
  }, TICK_MS).unref();
}
