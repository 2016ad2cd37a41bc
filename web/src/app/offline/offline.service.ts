import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { SwUpdate } from '@angular/service-worker';
import { BehaviorSubject, Subject, distinctUntilChanged, filter, firstValueFrom } from 'rxjs';
import { ApiService } from '../api/api.service';
import { ToastService } from '../ui/toasts';

/** How often the server is asked whether it is there: while it is away, and else, in milliseconds. */
const AWAY_MS = 8000;
const THERE_MS = 60_000;
/** Asked past the cache of the service worker. */
const PROBE = '/api/preferences?ngsw-bypass=true';
/** Which jobs were stored at which revision, and which faces. */
const PUT_BY = 'jentrix.offline';
/** How often a newer Jentrix is looked for, in milliseconds. */
const UPDATE_MS = 30 * 60_000;

/**
 * Jentrix without its server: the service worker keeps the page and what was seen; this sees to it that shelf, jobs and faces are among
 * that, tells whether the server is there, and asks before a newer Jentrix takes over.
 */
@Injectable({ providedIn: 'root' })
export class OfflineService {
  private readonly updates = inject(SwUpdate, { optional: true });
  private readonly toasts = inject(ToastService);
  private readonly api = inject(ApiService);
  private readonly away = new BehaviorSubject(false);
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** True while the server can't be reached. */
  readonly away$ = this.away.pipe(distinctUntilChanged());
  readonly isAway = toSignal(this.away$, { requireSync: true });
  /** The server is there again. */
  readonly back$ = new Subject<void>();

  /** Begins to look after all that. */
  start(): void {
    void this.probe();
    for (const name of ['online', 'offline']) addEventListener(name, () => void this.probe());
    document.addEventListener('visibilitychange', () => document.hidden || void this.probe());
    if (!this.updates?.isEnabled) return;
    this.updates.versionUpdates.pipe(filter(({ type }) => type === 'VERSION_READY')).subscribe(() => this.offer());
    this.updates.unrecoverable.subscribe(() => this.offer());
    setInterval(() => void this.updates?.checkForUpdate().catch(() => false), UPDATE_MS);
    void this.storeWhatWasSeen();
  }

  /** Puts jobs by at their newest revision, with the pictures they stand on. */
  async storeJobs(jobs: readonly { id: string; revision: number }[]): Promise<void> {
    await controlled();
    const had = storedRevisions();
    for (const { id, revision } of jobs) {
      if (had[id] === String(revision)) continue;
      const record = await firstValueFrom(this.api.readJob(id)).catch(() => undefined);
      if (!record) return;
      const grounds = record.job.sheets.map(({ background }) => background);
      const pictures = new Set(grounds.flatMap((ground) => (ground.kind === 'picture' ? [`/api/pictures/${ground.pictureId}?fit=${ground.fit}`] : [])));
      for (const address of pictures) await fetch(address).catch(() => undefined);
      remember({ [id]: String(revision) });
    }
  }

  /** Caches what this visit fetched before the service worker took control, then the fonts of My faces. */
  private async storeWhatWasSeen(): Promise<void> {
    const before = workers()?.controller;
    await controlled();
    if (!before) {
      const seen = new Set(performance.getEntriesByType('resource').map(({ name }) => name));
      for (const name of seen) if (new URL(name).pathname.startsWith('/api/') && !/\/events|ngsw-bypass/.test(name)) await fetch(name).catch(() => undefined);
    }
    await this.storeFaces();
    // Those that come later as well.
    setInterval(() => this.away.value || void this.storeFaces(), THERE_MS);
  }

  private async storeFaces(): Promise<void> {
    const answer = await fetch('/api/faces').catch(() => undefined);
    if (!answer?.ok) return;
    const { items } = (await answer.json()) as { items: readonly { id: string }[] };
    const had = storedRevisions();
    for (const { id } of items) {
      if (had[`face ${id}`]) continue;
      const file = await fetch(`/api/faces/${encodeURIComponent(id)}/file`).catch(() => undefined);
      if (!file?.ok) return;
      await file.arrayBuffer();
      remember({ [`face ${id}`]: 'here' });
    }
  }

  private async probe(): Promise<void> {
    clearTimeout(this.timer);
    const there = await fetch(PROBE, { cache: 'no-store' }).then(
      ({ ok }) => ok,
      () => false,
    );
    const was = this.away.value;
    this.away.next(!there);
    if (was && there) this.back$.next();
    this.timer = setTimeout(() => void this.probe(), there ? THERE_MS : AWAY_MS);
  }

  /** Edits are in the browser with every key, so that a fresh start costs none; but when it comes is not ours to say. */
  private offer(): void {
    this.toasts.offer('A new version of Jentrix is ready. Your work is kept.', {
      label: 'Update now',
      run: () => {
        location.reload();
      },
    });
  }
}

/** Absent where pages are not served securely. */
const workers = (): ServiceWorkerContainer | undefined => navigator.serviceWorker;

/** Resolves once the service worker has this page. */
async function controlled(): Promise<void> {
  const container = workers();
  if (!container || container.controller) return;
  await new Promise((taken) => container.addEventListener('controllerchange', taken, { once: true }));
}

function storedRevisions(): Readonly<Record<string, string>> {
  try {
    return JSON.parse(localStorage.getItem(PUT_BY) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
}

const remember = (more: Readonly<Record<string, string>>): void => {
  localStorage.setItem(PUT_BY, JSON.stringify({ ...storedRevisions(), ...more }));
};
