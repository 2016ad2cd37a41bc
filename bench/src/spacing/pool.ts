/** As many training workers as the machine has cores; tasks wait for a free one. */
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Net } from './network';
import type { TrainTask } from './train.worker';

const FILE = JSON.stringify(new URL('./train.worker.ts', import.meta.url).href);
/** Workers do not take over the loader of the main thread: this one loads TypeScript by itself. */
const BOOT = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${FILE}, ${FILE}));`;

export class TrainingPool {
  private readonly workers = Array.from({ length: availableParallelism() }, () => new Worker(BOOT, { eval: true }));
  private readonly idle = [...this.workers];
  private readonly waiting: ((worker: Worker) => void)[] = [];

  /** @throws what the worker threw. */
  async train(task: TrainTask): Promise<Net> {
    const worker = this.idle.pop() ?? (await new Promise<Worker>((free) => this.waiting.push(free)));
    try {
      return await new Promise<Net>((done, fail) => {
        worker.once('message', (net: Net) => {
          worker.off('error', fail);
          done(net);
        });
        worker.once('error', fail);
        worker.postMessage(task);
      });
    } finally {
      const next = this.waiting.shift();
      if (next) next(worker);
      else this.idle.push(worker);
    }
  }

  async close(): Promise<void> {
    await Promise.all(this.workers.map((worker) => worker.terminate()));
  }
}
