const TAB_KEY = 'jentrix-tab';
const BROWSER_KEY = 'jentrix-browser';
const lockName = (tabId: string): string => `jentrix-tab-${tabId}`;

let claimed: Promise<string> | undefined;

/** This tab's identifier, kept over reloads; a duplicated tab finds it taken and gets its own. A lock is held while the tab lives. */
export const ownTab = (): Promise<string> => (claimed ??= claim());

/** True for this tab and for tabs that are gone: what they kept is this tab's to take up. */
export async function orphaned(): Promise<(tabId: string) => boolean> {
  const own = await ownTab();
  const { held = [] } = await navigator.locks.query();
  const alive = new Set(held.map(({ name }) => name));
  return (tabId) => tabId === own || !alive.has(lockName(tabId));
}

/** This browser's identifier: its windows are one person's. */
export function ownBrowser(): string {
  const known = localStorage.getItem(BROWSER_KEY);
  if (known !== null) return known;
  const made = crypto.randomUUID();
  localStorage.setItem(BROWSER_KEY, made);
  return made;
}

async function claim(): Promise<string> {
  const stored = sessionStorage.getItem(TAB_KEY);
  if (stored !== null && (await holdLock(stored))) return stored;
  const made = crypto.randomUUID();
  await holdLock(made);
  sessionStorage.setItem(TAB_KEY, made);
  return made;
}

function holdLock(tabId: string): Promise<boolean> {
  return new Promise((resolve) => {
    void navigator.locks.request(lockName(tabId), { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock ? new Promise<never>(() => undefined) : undefined;
    });
  });
}
