import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { pairOf } from '@jentrix/core/findings';
import type { GapWhite } from '@jentrix/core/setting';
import { BehaviorSubject } from 'rxjs';
import { JobHistory } from '../../state/job-history';
import { PlaceService } from '../../state/place';
import { SheetSettings } from '../../state/sheet-settings';

/** What the gap ribbon shows: the line, its three kerning sources, or three letters. */
export type RibbonView = 'line' | 'sources' | 'three';

/** The white of one gap, held to be laid into others. */
export interface WhiteGuide {
  pair: string;
  white: GapWhite;
  sizePt: number;
}

export interface KerningView {
  ribbon: RibbonView;
  guide: WhiteGuide | undefined;
  /** What was typed for the hand field before it was there to take it. */
  typed: string;
}

/** What the Kerning pass keeps for itself. */
@Injectable()
export class KerningState {
  private readonly place = inject(PlaceService);
  private readonly settings = inject(SheetSettings);
  private readonly subject = new BehaviorSubject<KerningView>({ ribbon: 'line', guide: undefined, typed: '' });

  readonly view$ = this.subject.asObservable();

  constructor() {
    inject(JobHistory)
      .opened$.pipe(takeUntilDestroyed())
      .subscribe(() => this.subject.next({ ...this.value, guide: undefined, typed: '' }));
  }

  get value(): KerningView {
    return this.subject.value;
  }

  /** Shows the ribbon in a view; asked for again, as a line. */
  showRibbon(ribbon: RibbonView): void {
    const up = this.place.value.pass === 'kerning';
    this.place.go({ pass: 'kerning' });
    this.subject.next({ ...this.value, ribbon: up && this.value.ribbon === ribbon ? 'line' : ribbon });
  }

  /** Types a character that goes into the hand field. */
  type(character: string): void {
    this.subject.next({ ...this.value, typed: this.value.typed + character });
  }

  /** The hand field has taken what was typed. */
  taken(): void {
    this.subject.next({ ...this.value, typed: '' });
  }

  /** Holds the white of the gap at the caret as a guide, or lets it go. */
  toggleGuide(): void {
    const gapLine = this.settings.value?.gapLine;
    const ledger = gapLine?.ledgers.find(({ at }) => at === this.place.value.gap?.at);
    const white = gapLine?.white;
    if (this.value.guide || !white || !ledger) this.subject.next({ ...this.value, guide: undefined });
    else this.subject.next({ ...this.value, guide: { pair: pairOf(gapLine.block, ledger), white, sizePt: ledger.sizePt } });
  }
}
