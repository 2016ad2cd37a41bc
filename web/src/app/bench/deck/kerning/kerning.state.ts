import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { pairOf } from '@jentrix/core/findings';
import { withHand } from '@jentrix/core/job';
import type { GapOfJob, WhiteTarget } from '@jentrix/core/same-white';
import type { GapWhite } from '@jentrix/core/setting';
import { BehaviorSubject } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { JobHistory } from '../../state/job-history';
import { PlaceService } from '../../state/place';
import { SheetSettings } from '../../state/sheet-settings';

/** The view of the gap ribbon: the line, its three kerning sources, or three letters. */
export type RibbonView = 'line' | 'sources' | 'three';

/** The white of one gap, held to be laid into others. */
export interface WhiteGuide {
  pair: string;
  white: GapWhite;
  sizePt: number;
  /** Where it is from, and how much it is: in 1/1000 em of the letter before it. */
  from: GapOfJob;
  whiteMilliem: number;
}

export interface KerningView {
  ribbon: RibbonView;
  guide: WhiteGuide | undefined;
  /** Text typed before the field was there. */
  typed: string;
}

/** The state of the Kerning pass. */
@Injectable()
export class KerningState {
  private readonly place = inject(PlaceService);
  private readonly settings = inject(SheetSettings);
  private readonly engine = inject(EngineService);
  private readonly history = inject(JobHistory);
  private readonly subject = new BehaviorSubject<KerningView>({ ribbon: 'line', guide: undefined, typed: '' });

  readonly view$ = this.subject.asObservable();
  readonly view = toSignal(this.view$, { requireSync: true });

  constructor() {
    this.history.opened$.pipe(takeUntilDestroyed()).subscribe(() => this.subject.next({ ...this.value, guide: undefined, typed: '' }));
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
    else {
      const { at, sizePt, whiteMilliem } = ledger;
      const guide = { pair: pairOf(gapLine.block, ledger), white, sizePt, from: { blockId: gapLine.block.id, at }, whiteMilliem };
      this.subject.next({ ...this.value, guide });
    }
  }

  /** Gives a white, or what is held of one, to others: one step. */
  async give(to: WhiteTarget, from: (GapOfJob & { whiteMilliem?: number }) | undefined = this.place.value.gap): Promise<void> {
    const { job } = this.history;
    if (!job || !from) return;
    const given = await this.engine.giveWhite(job, from, to);
    // What was measured is not what stands there now.
    if (!given || this.history.job !== job) return;
    this.history.apply((now) => given.hand.reduce((next, { blockId, at, milliem }) => withHand(next, blockId, at, milliem), now));
  }

  /** Gives the held white to the gap at the caret, or to all in the picked stretch; where none is held, that of the gap to all of its kind in its line. */
  async giveHere(): Promise<void> {
    const { guide } = this.value;
    const { gap, blockId, selection } = this.place.value;
    if (!guide) return this.give({ kind: 'alike' });
    const picked = selection && selection.end - selection.start > 1 && blockId !== undefined;
    const gaps = picked ? Array.from({ length: selection.end - selection.start - 1 }, (_, i) => ({ blockId, at: selection.start + 1 + i })) : gap ? [gap] : [];
    return this.give({ kind: 'gaps', gaps }, { ...guide.from, whiteMilliem: guide.whiteMilliem });
  }
}
