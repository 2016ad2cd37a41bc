import { type FiledWithPulls, fileNewBody } from './file-with-pulls';
import { type FiledPull, filePull } from './file-pull';
import type { Workshop } from '../pool/workshop';
import { type Filed, type JobChange, fileBody, fileStored } from './filing';
import { filingTasks } from './tasks';

/** Texts up to this length are read at once, which takes a few milliseconds; longer ones are read beside the main thread. */
const AT_ONCE = 48 * 1024;

/** Reads jobs without holding up other requests. */
export class JobFiler {
  constructor(private readonly workshop: Pick<Workshop, 'run'>) {}

  /** The job in the body of a write. @throws ProblemError 400, 422 */
  async body(bytes: Buffer): Promise<Filed> {
    const text = bytes.toString('utf8');
    return text.length <= AT_ONCE ? fileBody(text) : this.workshop.run(filingTasks.fileBody, text);
  }

  /** A new job in the body of a write, with the pulls that its file held. @throws ProblemError 400, 422 */
  async newBody(bytes: Buffer): Promise<FiledWithPulls> {
    const text = bytes.toString('utf8');
    return text.length <= AT_ONCE ? fileNewBody(text) : this.workshop.run(filingTasks.fileNewBody, text);
  }

  /** The pull in the body of a write. @throws ProblemError 400, 422 */
  async pull(bytes: Buffer): Promise<FiledPull> {
    const text = bytes.toString('utf8');
    return text.length <= AT_ONCE ? filePull(text) : this.workshop.run(filingTasks.filePull, text);
  }

  /** A stored job, brought up to date and changed where that is asked for. @throws ProblemError 422 where it can’t be read any more */
  async stored(document: string, change?: JobChange): Promise<Filed> {
    const input = change ? { document, change } : { document };
    return document.length <= AT_ONCE ? fileStored(input) : this.workshop.run(filingTasks.fileStored, input);
  }
}
