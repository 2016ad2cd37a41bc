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
  /** What jobs measure, which waits for nobody and nobody waits for. */
  readonly measuring = new ProcessPool('measure', { processes: 1 });
  /** Pictures and fonts that come in. */
  readonly intake = new ProcessPool('file', { processes: 1, timeMs: 4_000 });
  /** Reading large jobs, which nothing that comes from outside may hold up for long. */
  readonly reading = new ProcessPool('job', { processes: 2 });

  /** @param folder for the files in between; emptied. */
  constructor(folder: string) {
    this.spool = new Spool(folder);
  }

  private get pools(): ProcessPool[] {
    return [this.drawing, this.thumbnails, this.measuring, this.intake, this.reading];
  }

  /** The processes there are, by their identifiers. */
  get pids(): number[] {
    return this.pools.flatMap(({ pids }) => pids);
  }

  close(): void {
    for (const pool of this.pools) pool.close();
    this.spool.close();
  }
}
