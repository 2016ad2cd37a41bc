import type { Response } from 'express';

/** So often something is sent, so that nobody in between takes the connection for dead, in milliseconds. */
const BEAT_MS = 20_000;
/** How long a page that lost the connection waits before it asks anew, in milliseconds. */
const RETRY_MS = 2000;

/**
 * Tells of the revisions of a job as they are written (WHATWG HTML, section 9.2, server-sent events): the current one at once, then
 * each new one, for as long as whoever asked stays.
 * @param listen has a listener told. @returns what ends that
 */
export function sendRevisions(response: Response, current: number, listen: (hear: (revision: number) => void) => () => void): void {
  const tell = (revision: number): void => void response.write(`data: {"revision":${revision}}\n\n`);
  // Packed, events would wait for each other.
  response.status(200).set({ 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' });
  response.write(`retry: ${RETRY_MS}\n\n`);
  tell(current);
  const deaf = listen(tell);
  const beat = setInterval(() => response.write(':\n\n'), BEAT_MS);
  response.on('close', () => {
    clearInterval(beat);
    deaf();
  });
}
