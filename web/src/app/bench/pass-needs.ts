import { InjectionToken } from '@angular/core';

/** A pass's request to the engine: the white between the lines of the current block. */
export type PassNeed = 'line gaps';

/** The requests of each pass, by its identifier. */
export const PASS_NEEDS = new InjectionToken<ReadonlyMap<string, readonly PassNeed[]>>('what passes need');
