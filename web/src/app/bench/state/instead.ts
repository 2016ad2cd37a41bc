import { Injectable, computed, signal } from '@angular/core';
import type { Block, Sheet } from '@jentrix/core/job';
import type { BlockSetting } from '@jentrix/core/setting';

/** A sheet with its blocks as they were set. */
export interface ShownSheet {
  readonly sheet: Sheet;
  readonly blocks: readonly { readonly block: Block; readonly setting: BlockSetting }[];
}

/** Ways to show two sheets: next to each other, one wiped over the other, or overlaid in two colours. */
export const BESIDE_MODES = ['beside', 'wipe', 'over'] as const;
export type BesideMode = (typeof BESIDE_MODES)[number];

/** Another sheet of the job on the table, and where it stands beside the one that is worked on, in points of it. */
export interface RowSheet {
  readonly shown: ShownSheet;
  readonly xPt: number;
  readonly yPt: number;
}

/** The sheet that the table shows instead of the current one or together with it: looked at, not touched. */
@Injectable()
export class Instead {
  private readonly held = signal<ShownSheet | undefined>(undefined);
  /** The sheet shown until something else is. */
  readonly standIn = signal<ShownSheet | undefined>(undefined);
  /** A second sheet, and how it is shown. */
  readonly second = signal<{ shown: ShownSheet; side: BesideMode } | undefined>(undefined);
  /** The other sheets of the job, where all are shown in a row. */
  readonly row = signal<readonly RowSheet[]>([]);
  /** How much of the table the first sheet keeps while the second is wiped over it, 0 to 1. */
  readonly wipe = signal(0.5);

  /** The sheet seen in the place of the current one. */
  readonly shown = computed(() => this.held() ?? this.standIn());

  /** Shows a sheet for a moment. */
  show(sheet: ShownSheet): void {
    this.held.set(sheet);
  }

  /** Shows a sheet as it was set, with one of its blocks otherwise, for a moment. */
  showWith(
    { sheet, blocks }: { readonly sheet: Sheet; readonly blocks: ReadonlyMap<string, ShownSheet['blocks'][number]> },
    tried: ShownSheet['blocks'][number],
  ): void {
    this.show({ sheet, blocks: [...blocks.values()].map((set) => (set.block.id === tried.block.id ? tried : set)) });
  }

  /** Ends what was shown for a moment; of several only the last ends it. */
  end(sheet = this.held()): void {
    if (this.held() === sheet) this.held.set(undefined);
  }
}
