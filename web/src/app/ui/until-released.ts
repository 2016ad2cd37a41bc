/** Ends what lasts while a key is held: when a key is released, or the window no longer hears of it. */
export function untilReleased(end: () => void): void {
  const over = new AbortController();
  const run = (): void => {
    over.abort();
    end();
  };
  for (const type of ['keyup', 'blur']) addEventListener(type, run, { signal: over.signal });
}
