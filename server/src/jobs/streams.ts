import { ProblemError } from '../http/problem';

/** Most event streams of one client, by its address, and of all together. */
export const MOST_STREAMS = { client: 60, all: 400 } as const;

/** Counts the streams that are open. */
export class Streams {
  private readonly open = new Map<string, number>();
  private all = 0;

  /** @returns what is called when it ends. @throws ProblemError 429 where there are too many */
  take(client: string): () => void {
    const own = this.open.get(client) ?? 0;
    if (own >= MOST_STREAMS.client || this.all >= MOST_STREAMS.all) {
      throw new ProblemError(429, 'too-many', 'Too many windows', 'Too many windows are open. Close some; reload the others to see changes.');
    }
    this.open.set(client, own + 1);
    this.all++;
    let over = false;
    return () => {
      if (over) return;
      over = true;
      this.all--;
      const left = (this.open.get(client) ?? 1) - 1;
      if (left === 0) this.open.delete(client);
      else this.open.set(client, left);
    };
  }
}
