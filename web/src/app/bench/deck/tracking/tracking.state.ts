import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import type { WordSpaceLink } from '@jentrix/core/job';
import { BehaviorSubject } from 'rxjs';
import { JobHistory } from '../../state/job-history';
import { PlaceService } from '../../state/place';
import { SheetFindings } from '../../state/sheet-findings';
import { SheetSettings } from '../../state/sheet-settings';

/** The state of the Tracking pass: whether word space follows letter space. */
@Injectable()
export class TrackingState {
  private readonly place = inject(PlaceService);
  private readonly settings = inject(SheetSettings);
  private readonly findings = inject(SheetFindings);
  private readonly subject = new BehaviorSubject(false);

  readonly linked$ = this.subject.asObservable();
  readonly linked = toSignal(this.linked$, { requireSync: true });

  constructor() {
    inject(JobHistory)
      .opened$.pipe(takeUntilDestroyed())
      .subscribe(() => this.subject.next(false));
  }

  /** Keeps word space in proportion to letter space from now on, or lets it stay. */
  linkWordSpace(linked: boolean): void {
    this.subject.next(linked);
  }

  /** How word space follows tracking in the current block. */
  get wordSpaceLink(): WordSpaceLink | undefined {
    const { blockId = '' } = this.place.value;
    const ownMilliem = this.settings.value?.blocks.get(blockId)?.setting.wordSpaceMilliem;
    const letterMilliem = this.findings.value.inspections.get(blockId)?.letterMilliem;
    return !this.subject.value || letterMilliem === undefined || ownMilliem === undefined ? undefined : { ownMilliem, letterMilliem };
  }
}
