/** The work of a thread on each file it is given. */
import { parentPort } from 'node:worker_threads';
import { plainMeasure, refineFile } from './refine-file';
import { type WorkerAnswer, type RefineTask, writeWhole } from './refine-many';

async function answerTo({ path, target, options }: RefineTask): Promise<WorkerAnswer> {
  try {
    const { content, cut, notes } = await refineFile(path, options);
    writeWhole(target, content);
    return { before: plainMeasure(cut.before), after: plainMeasure(cut.after), notes };
  } catch (error) {
    return { error: error instanceof Error ? error.message : String(error) };
  }
}

parentPort?.on('message', (task: RefineTask) => void answerTo(task).then((answer) => parentPort?.postMessage(answer)));
