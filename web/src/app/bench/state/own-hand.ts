import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Judged } from '@jentrix/core/findings';
import { decided } from '@jentrix/core/taste';
import type { GapRef } from '../../engine/protocol';
import { UserPreferences } from '../../settings/user-preferences';
import { JobHistory } from './job-history';
import { PlaceService } from './place';
import { SheetSettings } from './sheet-settings';

/** A gap that the caret is at, as it was met and as it was seen last. */
interface Visit {
  gap: GapRef;
  met: Judged & { handMilliem: number };
  now: { totalMilliem: number; handMilliem: number };
}

/** Learns the designer's own hand: a gap that is left with another hand value is a decision, and so is a finding that is taken or silenced. */
@Injectable()
export class OwnHand {
  private readonly preferences = inject(UserPreferences);
  private readonly place = inject(PlaceService);
  private visit: Visit | undefined;

  constructor() {
    const settings = inject(SheetSettings);
    inject(JobHistory)
      .opened$.pipe(takeUntilDestroyed())
      .subscribe(() => (this.visit = undefined));
    this.place.place$.pipe(takeUntilDestroyed()).subscribe(({ gap }) => {
      const { visit } = this;
      if (visit && (gap?.blockId !== visit.gap.blockId || gap.at !== visit.gap.at)) this.leave(visit);
    });
    settings.setting$.pipe(takeUntilDestroyed()).subscribe((setting) => {
      const { gap } = this.place.value;
      const { gapLine } = setting ?? {};
      const ledger = gapLine?.block.id === gap?.blockId ? gapLine?.ledgers.find(({ at }) => at === gap?.at) : undefined;
      if (!gap || !ledger?.pair) return;
      const { plainMilliem, shouldMilliem, totalMilliem, handMilliem } = ledger;
      const now = { totalMilliem, handMilliem };
      if (this.visit?.gap.at === gap.at && this.visit.gap.blockId === gap.blockId) this.visit = { ...this.visit, now };
      else this.visit = { gap, met: { kind: ledger.pair, plainMilliem, shouldMilliem, totalMilliem, handMilliem }, now };
    });
  }

  /** Learns from a proposal that was applied or silenced: the gap holds what it should, or what it holds is wanted. */
  judged(judged: Judged | undefined, taken: boolean): void {
    if (judged) this.decide(judged, taken ? judged.shouldMilliem : judged.totalMilliem);
    // The gap at the caret is decided with it.
    this.visit = undefined;
  }

  private leave({ met, now }: Visit): void {
    this.visit = undefined;
    if (now.handMilliem !== met.handMilliem && now.handMilliem !== 0) this.decide(met, now.totalMilliem);
  }

  private decide({ kind, plainMilliem }: Judged, chosenMilliem: number): void {
    const { taste } = this.preferences.current;
    const next = decided(taste, { kind, proposedMilliem: plainMilliem, chosenMilliem });
    // Where the server is away it holds for this visit.
    if (next !== taste) this.preferences.change({ taste: next }).catch(() => undefined);
  }
}
