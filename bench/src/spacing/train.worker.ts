/** One network at a time, trained off the main thread: folds and seeds run side by side on all cores. */
import { parentPort } from 'node:worker_threads';
import { type TrainingSet, type TrainOptions, train } from './network';

export interface TrainTask {
  set: TrainingSet;
  options: TrainOptions;
}

parentPort?.on('message', ({ set, options }: TrainTask) => parentPort?.postMessage(train(set, options)));
