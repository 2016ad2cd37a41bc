import { InjectionToken, type ProviderToken, type Type } from '@angular/core';
import type { Preferences } from '@jentrix/core/preferences';
import type { BenchStore } from './bench.store';
import type { PassNeed } from './pass-needs';

/** A part of a pass that is drawn on the sheet: where lines end, handles on lines, handles on frames; the edges and the middle that lines are aligned to; letters, which a click then picks instead of a gap. */
export type OverlayPart = 'line ends' | 'line handles' | 'frame handles' | 'letters' | 'true edges';

/** A step of the craft: chooses its overlay on the table and the instrument in the deck. Adding one is a folder and a line in `passes.ts`. */
export interface Pass {
  id: string;
  name: string;
  /** The letter that brings it up. */
  key: string;
  /** The hint shown once to newcomers. */
  hint: string;
  /** The page of `docs/using` that tells how it is done, without its ending. */
  help: string;
  /** The instrument, loaded when it is first wanted. */
  deck: () => Promise<Type<unknown>>;
  overlay: readonly OverlayPart[];
  /** Its requests to the engine about the current block. */
  needs: readonly PassNeed[];
  /** Keys it adds to those of the bench. */
  keys: readonly KeyBinding[];
  /** The use of the arrow keys while it is up, where that is not to walk and to nudge gaps. */
  arrows?: (context: KeyContext, event: KeyboardEvent) => void;
  /** Services that hold what it keeps for itself; they live as long as the bench. */
  state: readonly Type<unknown>[];
}

/** All passes in the order of the work. */
export const PASSES = new InjectionToken<readonly Pass[]>('passes');

/** Where a key is heard: with the bench itself focused; also on buttons, since it changes nothing in the job; also in fields whose keystrokes are edits. */
export type KeyReach = 'bench' | 'page' | 'anywhere';

/** The action of a key, from which the list of keys is made as well. */
export interface KeyBinding {
  /** Under this name the preferences keep other characters for it. */
  id: string;
  says: string;
  group: 'Gaps' | 'Letters' | 'Findings' | 'Letter space and lines' | 'Blocks' | 'Proof' | 'Passes' | 'Work';
  /** `bench` where absent. */
  reach?: KeyReach;
  /** The pass it is heard in, and there before all others; everywhere where absent. */
  within?: string;
  /** The characters that do it, in lower case; people can have others. */
  characters?: readonly string[];
  /** Where those stand on the keyboard (`KeyboardEvent.code`), for keys that are meant by their place. */
  codes?: readonly string[];
  /** For keys that are no single characters, or any of many. */
  matches?: (event: KeyboardEvent) => boolean;
  /** How it is told; the characters where absent. */
  shown?: readonly string[];
  /** @param which of the characters it was. */
  run: (context: KeyContext, event: KeyboardEvent, which: number) => void;
}

export interface KeyContext {
  store: BenchStore;
  /** The state of a pass. */
  get: <T>(state: ProviderToken<T>) => T;
  preferences: Preferences;
  /** Edits of one held key share this. */
  gesture: string;
  help: () => void;
  find: () => void;
  zoom: (to: 'sheet' | 'block') => void;
}

/** Matches a key by what it writes, with no other held but Shift. */
export const keyBinding =
  (...names: string[]) =>
  (event: KeyboardEvent): boolean =>
    isPlain(event) && names.includes(event.key);

export const isPlain = (event: KeyboardEvent): boolean => !event.ctrlKey && !event.metaKey && !event.altKey;

/** The fine step of the preferences, or with Shift the coarse, in 1/1000 em. */
export const stepOf = ({ preferences }: KeyContext, event: KeyboardEvent): number => (event.shiftKey ? preferences.coarseMilliem : preferences.fineMilliem);
