/**
 * A worker that ends when its page is left, though the browser may keep the page to be come back to (its back/forward cache). Chromium
 * freezes the worker of such a page; if the page is then thrown away before the worker has begun in full, the next page, which may live in
 * the same process, can stand still for good. A page that is come back to is loaded anew (`main.ts`).
 */
export function endsWithPage(worker: Worker): Worker {
  addEventListener('pagehide', () => worker.terminate(), { once: true });
  return worker;
}
