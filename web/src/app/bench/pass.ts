import { InjectionToken, type ProviderToken, type Type } from '@angular/core';
import type { Preferences } from '@jentrix/core/preferences';
import type { BenchStore } from './bench.store';
import type { PassNeed } from './pass-needs';

/** What of a pass is shown on the sheet: where lines end, handles on lines, handles on frames. */
export type OverlayPart = 'line ends' | 'line handles' | 'frame handles';

/** A step of the craft: chooses what is laid over the table and the instrument in the deck. Adding one is a folder and a line in `passes.ts`. */
export interface Pass {
  id: string;
  name: string;
  /** The letter that brings it up. */
  key: string;
  /** The instrument, loaded when it is first wanted. */
  deck: () => Promise<Type<unknown>>;
  overlay: readonly OverlayPart[];
  /** What the engine has to say of the current block besides its setting. */
  needs: readonly PassNeed[];
  /** Keys it adds to those of the bench. */
  keys: readonly KeyBinding[];
  /** Services that hold what it keeps for itself; they live as long as the bench. */
  state: readonly Type<unknown>[];
}

/** All passes in the order of the work. */
export const PASSES = new InjectionToken<readonly Pass[]>('passes');

/** What a key does is told by one of these; the list of keys that people see is made from the same table. */
export interface KeyBinding {
  /** Tests `KeyboardEvent.key`, or `code` for keys that are meant by their place. */
  matches: (event: KeyboardEvent) => boolean;
  shown: readonly string[];
  says: string;
  group: 'Gaps' | 'Findings' | 'Letter space and lines' | 'Blocks' | 'Passes' | 'Work';
  run: (context: KeyContext, event: KeyboardEvent) => void;
}

export interface KeyContext {
  store: BenchStore;
  /** What a pass keeps for itself. */
  get: <T>(state: ProviderToken<T>) => T;
  preferences: Preferences;
  /** Edits of one held key share this. */
  gesture: string;
  help: () => void;
  find: () => void;
  zoom: (to: 'sheet' | 'block') => void;
}

/** Matches a key by what it writes, with no other held but Shift. */
export const key =
  (...names: string[]) =>
  (event: KeyboardEvent): boolean =>
    isPlain(event) && names.includes(event.key);

/** Matches a key by its place on the keyboard. */
export const code =
  (...names: string[]) =>
  (event: KeyboardEvent): boolean =>
    isPlain(event) && names.includes(event.code);

export const isPlain = (event: KeyboardEvent): boolean => !event.ctrlKey && !event.metaKey && !event.altKey;

/** The fine step of the preferences, or with Shift the coarse, in 1/1000 em. */
export const stepOf = ({ preferences }: KeyContext, event: KeyboardEvent): number => (event.shiftKey ? preferences.coarseMilliem : preferences.fineMilliem);
