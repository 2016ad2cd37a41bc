/**
 * The one door to HarfBuzz (WebAssembly).
 *
 * harfbuzzjs frees its objects only through a FinalizationRegistry, which never runs inside a synchronous
 * loop. While the module loads, its registry is replaced by one that remembers each clean-up, so that `release`
 * can free an object at once. Where a later harfbuzzjs stops using a registry, `release` does nothing and the
 * garbage collector is left to it; `face.spec.ts` notices.
 */
import type * as HarfBuzz from 'harfbuzzjs';

export type { Face as HbFace, Feature as HbFeature, Font as HbFont } from 'harfbuzzjs';

const cleanups = new WeakMap<WeakKey, () => void>();
const registries = new WeakMap<WeakKey, FinalizationRegistry<unknown>>();

let loading: Promise<typeof HarfBuzz> | undefined;
let loaded: typeof HarfBuzz | undefined;

/** Loads HarfBuzz once. Resolves to the same module for every caller; call it before anything else here. */
export function loadHarfBuzz(): Promise<typeof HarfBuzz> {
  loading ??= load();
  return loading;
}

async function load(): Promise<typeof HarfBuzz> {
  const Native = globalThis.FinalizationRegistry;
  class RememberingRegistry<T> extends Native<T> {
    override register(target: WeakKey, held: T, token?: WeakKey): void {
      super.register(target, held, token ?? target);
      if (typeof held === 'function' && token === undefined) {
        cleanups.set(target, held as () => void);
        registries.set(target, this);
      }
    }
  }
  globalThis.FinalizationRegistry = RememberingRegistry;
  try {
    loaded = await import('harfbuzzjs');
    return loaded;
  } finally {
    globalThis.FinalizationRegistry = Native;
  }
}

/**
 * The loaded module, for synchronous use.
 * @throws Error when `loadHarfBuzz` has not resolved yet.
 */
export function harfBuzz(): typeof HarfBuzz {
  if (!loaded) throw new Error('HarfBuzz is not loaded yet: await loadHarfBuzz() first');
  return loaded;
}

/** Frees the WebAssembly memory of a HarfBuzz object now. Safe to call twice; the object must not be used again. */
export function release(object: object): void {
  const cleanup = cleanups.get(object);
  if (!cleanup) return;
  cleanups.delete(object);
  registries.get(object)?.unregister(object);
  cleanup();
}
