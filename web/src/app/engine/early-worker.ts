/** The engine's worker: on the way to a job the document itself has begun it (`server/src/http/page.ts`), before any script of the application. */
import { endsWithPage } from './ends-with-page';

/** Where the document leaves it. */
const HOLDER = globalThis as { jentrixEarlyWorker?: Worker };

/** A worker that nobody else has. */
export function takeWorker(): Worker {
  const early = HOLDER.jentrixEarlyWorker;
  delete HOLDER.jentrixEarlyWorker;
  // What the document has begun ends by what the document says.
  return early ?? endsWithPage(new Worker(new URL('./engine.worker', import.meta.url), { type: 'module' }));
}
