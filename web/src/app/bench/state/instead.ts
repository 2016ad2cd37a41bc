import { Injectable, signal } from '@angular/core';
import type { Block, Sheet } from '@jentrix/core/job';
import type { BlockSetting } from '@jentrix/core/setting';

/** A sheet with its blocks as they were set. */
export interface ShownSheet {
  readonly sheet: Sheet;
  readonly blocks: readonly { readonly block: Block; readonly setting: BlockSetting }[];
}

/** A sheet that the table shows for a moment instead of the one that is worked on: looked at, not touched. */
@Injectable()
export class Instead {
  private readonly subject = signal<ShownSheet | undefined>(undefined);
  readonly shown = this.subject.asReadonly();

  show(sheet: ShownSheet): void {
    this.subject.set(sheet);
  }

  /** Shows what is worked on again; of several that were shown only the last ends it. */
  end(sheet = this.subject()): void {
    if (this.subject() === sheet) this.subject.set(undefined);
  }
}
