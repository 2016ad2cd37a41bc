import { Injectable, signal } from '@angular/core';
import type { Point } from '@jentrix/core/placing';
import type { PictureRead } from '@jentrix/core/reading';
import type { ShownSheet } from './instead';

/** The reading of a reference, and its subject: of another picture or other words it tells nothing. */
export interface FoundInPicture {
  pictureId: string;
  /** The block whose words were looked for, and the words. */
  blockId: string | undefined;
  words: string;
  read: PictureRead;
  /** Pixels of the reference for each pixel of the picture that was read. */
  perPixel: number;
}

/** The state that layer and panel of a reference share; loaded with them. The reference itself is part of the sheet. */
@Injectable({ providedIn: 'root' })
export class References {
  /** The panel is up: the reference can be dragged, and what was found is shown. */
  readonly active = signal(false);
  /** The other sheet that is the reference, set; undefined while it isn't, null where it is gone. */
  readonly shown = signal<ShownSheet | null | undefined>(undefined);
  readonly found = signal<FoundInPicture | undefined>(undefined);
  /** Places that are picked in pairs: where something of the reference is, and where it is to be. Undefined while none are picked. */
  readonly pairing = signal<readonly Point[] | undefined>(undefined);
}
