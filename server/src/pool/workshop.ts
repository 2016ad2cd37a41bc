/** All processes beside the server, and the folder they share with it. */
import { availableParallelism } from 'node:os';
import { ProcessPool } from './process-pool';
import { Spool } from './spool';

export class Workshop {
  readonly spool: Spool;
  /** Drawing for the hand-over; leaves a core to the server. */
  readonly drawing = new ProcessPool('drawing', { processes: Math.max(1, Math.min(3, availableParallelism() - 1)) });
  /** Thumbnails, which a long export must not hold up. */
  readonly thumbnails = new ProcessPool('thumbnail', { processes: 1 });
  /** Pictures and fonts that come in. */
  readonly intake = new ProcessPool('file', { processes: 1, timeMs: 4_000 });
  /** Reading large jobs, which nothing that comes from outside may hold up for long. */
  readonly reading = new ProcessPool('job', { processes: 2 });

  /** @param folder for the files in between; emptied. */
  constructor(folder: string) {
    this.spool = new Spool(folder);
  }

  /** The processes there are, by their identifiers. */
  get pids(): number[] {
    return [this.drawing, this.thumbnails, this.intake, this.reading].flatMap(({ pids }) => pids);
  }

  close(): void {
    for (const pool of [this.drawing, this.thumbnails, this.intake, this.reading]) pool.close();
    this.spool.close();
  }
}
