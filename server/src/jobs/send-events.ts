import type { Response } from 'express';

/** So often something is sent, so that nobody in between takes the connection for dead, in milliseconds. */
const BEAT_MS = 20_000;
/** How long a page that lost the connection waits before it asks anew, in milliseconds. */
const RETRY_MS = 2000;

/** Tells of something: an event of a name (`message` where there is none), with its data. */
export type Tell = (data: object, event?: string) => void;

/**
 * Answers with events for as long as whoever asked stays (WHATWG HTML, section 9.2, server-sent events).
 * @param listen has what happens told from then on. @returns what ends that
 */
export function sendEvents(response: Response, listen: (tell: Tell) => () => void): void {
  // Packed, events would wait for each other.
  response.status(200).set({ 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' });
  response.write(`retry: ${RETRY_MS}\n\n`);
  const deaf = listen((data, event) => void response.write(`${event === undefined ? '' : `event: ${event}\n`}data: ${JSON.stringify(data)}\n\n`));
  const beat = setInterval(() => response.write(':\n\n'), BEAT_MS);
  response.on('close', () => {
    clearInterval(beat);
    deaf();
  });
}
