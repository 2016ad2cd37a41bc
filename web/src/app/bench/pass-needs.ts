import { InjectionToken } from '@angular/core';

/** What a pass can ask of the engine: the white between the lines of the current block. */
export type PassNeed = 'line gaps';

/** What each pass asks for, by its identifier. */
export const PASS_NEEDS = new InjectionToken<ReadonlyMap<string, readonly PassNeed[]>>('what passes need');
