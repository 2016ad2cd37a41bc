/** Who has a job open: windows that say so, and are forgotten when they leave, or say nothing any more. */
import { EventEmitter } from 'node:events';
import type { HereBody, Other } from '@jentrix/core/api';

/** So long a window counts that says nothing, in milliseconds: browsers let hidden pages speak about once a minute. */
const LEASE_MS = 150_000;
/** A window whose stream broke off comes back within this time, in milliseconds, or has left. */
const BACK_MS = 4_000;

interface Here {
  window: string;
  browser: string;
  blockId: string | null;
  hidden: boolean;
  until: number;
}

export class Presence {
  private readonly jobs = new Map<string, Map<string, Here>>();
  private readonly changed = new EventEmitter().setMaxListeners(0);
  private readonly timer = setInterval(() => this.sweep(), BACK_MS / 2).unref();

  /** @param hear told of the others whenever that changes. @returns what ends that */
  listen(jobId: string, { window, browser }: { window: string; browser: string }, hear: (others: Other[]) => void): () => void {
    const tell = (): void => hear(this.others(jobId, window, browser));
    this.changed.on(jobId, tell);
    const here = this.jobs.get(jobId)?.get(window);
    this.put(jobId, { window, browser, blockId: here?.blockId ?? null, hidden: false, until: Date.now() + LEASE_MS });
    return () => {
      this.changed.off(jobId, tell);
      const left = this.jobs.get(jobId)?.get(window);
      // A page that goes out of sight ends its stream, and has said so.
      if (left && !left.hidden) left.until = Date.now() + BACK_MS;
    };
  }

  /** A window says where it is, or that it leaves. */
  say(jobId: string, { window, browser, blockId, state }: HereBody): void {
    if (state === 'left') {
      if (this.jobs.get(jobId)?.delete(window)) this.changed.emit(jobId);
    } else this.put(jobId, { window, browser, blockId, hidden: state === 'hidden', until: Date.now() + LEASE_MS });
  }

  close(): void {
    clearInterval(this.timer);
  }

  private others(jobId: string, window: string, browser: string): Other[] {
    const here = [...(this.jobs.get(jobId)?.values() ?? [])].filter((one) => one.window !== window);
    return here.map((one) => ({ who: one.browser === browser ? 'window' : 'person', blockId: one.blockId }));
  }

  private put(jobId: string, here: Here): void {
    const all = this.jobs.get(jobId) ?? new Map<string, Here>();
    this.jobs.set(jobId, all);
    const before = all.get(here.window);
    all.set(here.window, here);
    if (before?.blockId !== here.blockId) this.changed.emit(jobId);
  }

  private sweep(): void {
    const now = Date.now();
    for (const [jobId, all] of this.jobs) {
      const gone = [...all.values()].filter(({ until }) => until < now);
      for (const { window } of gone) all.delete(window);
      if (all.size === 0) this.jobs.delete(jobId);
      if (gone.length > 0) this.changed.emit(jobId);
    }
  }
}
