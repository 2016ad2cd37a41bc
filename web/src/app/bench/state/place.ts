import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import type { ColourPlace, Job, WordRange } from '@jentrix/core/job';
import { BehaviorSubject, Subject } from 'rxjs';
import type { GapRef } from '../../engine/protocol';
import { JobHistory } from './job-history';

/** The things that can be drawn on the sheet: by a drag a block, a rule, or what a block is turned along; by clicks a path. */
export type DrawTool = 'block' | 'box' | 'rule' | 'turn' | 'path';

/** Where the designer is: sheet, block, gap and pass. Not part of the job, not undone. */
export interface BenchPlace {
  sheetId: string;
  blockId: string | undefined;
  gap: GapRef | undefined;
  /** Identifier of the pass that is up. */
  pass: string;
  /** More blocks that are moved, ordered and deleted together with the current one. */
  also: readonly string[];
  /** The letters that are picked in the current block's words; settings go to them. Empty where it is a caret. */
  selection: WordRange | undefined;
  /** True while the words are being edited: the sheet then shows the text caret and selection. */
  editing: boolean;
  /** The thing that the next drag or clicks draw. */
  drawing: DrawTool | undefined;
  /** The place that the next click on the sheet gives the colour under it to. */
  picking: ColourPlace | undefined;
}

const NOWHERE: Omit<BenchPlace, 'pass'> = {
  sheetId: '',
  blockId: undefined,
  gap: undefined,
  also: [],
  selection: undefined,
  editing: false,
  drawing: undefined,
  picking: undefined,
};

@Injectable()
export class PlaceService {
  private readonly history = inject(JobHistory);
  private readonly subject = new BehaviorSubject<BenchPlace>({ ...NOWHERE, pass: 'kerning' });

  private readonly asked = new Subject<string>();

  readonly place$ = this.subject.asObservable();
  readonly current = toSignal(this.place$, { requireSync: true });
  /** A pass was asked for that is up already: it shows what it begins with. */
  readonly again$ = this.asked.asObservable();

  private readonly wantsKeys = new Subject<void>();
  /** The keys are to go to the bench itself. */
  readonly benchFocus$ = this.wantsKeys.asObservable();

  constructor() {
    this.history.opened$.pipe(takeUntilDestroyed()).subscribe(({ sheets: [sheet] }) =>
      // The pass stays up; everything else belonged to the job before.
      this.subject.next({ ...NOWHERE, pass: this.value.pass, sheetId: sheet?.id ?? '', blockId: sheet?.blocks[0]?.id }),
    );
    this.history.job$.pipe(takeUntilDestroyed()).subscribe((job) => job && this.keepWithin(job));
  }

  get value(): BenchPlace {
    return this.subject.value;
  }

  /** Goes somewhere else: what was a gesture until then has ended. */
  go(change: Partial<BenchPlace>): void {
    this.history.endGesture();
    this.subject.next({ ...this.value, ...change });
  }

  /** Gives the keys to the bench: the sheet takes the focus. */
  focusBench(): void {
    this.wantsKeys.next();
  }

  /** Brings a pass up. */
  showPass(pass: string): void {
    if (pass === this.value.pass) this.asked.next(pass);
    this.go({ pass });
  }

  /** Takes where the text caret is; the gesture of typing goes on. */
  keep(change: Partial<BenchPlace>): void {
    this.subject.next({ ...this.value, ...change });
  }

  /** After undo or another version: a sheet, block or gap that is gone is dropped. */
  private keepWithin(job: Job): void {
    const place = this.value;
    const sheet = job.sheets.find(({ id }) => id === place.sheetId) ?? job.sheets[0];
    const block = sheet?.blocks.find(({ id }) => id === place.blockId);
    const length = block?.words.length ?? 0;
    const gap = place.gap && block?.id === place.gap.blockId && place.gap.at < length ? place.gap : undefined;
    const also = place.also.filter((id) => sheet?.blocks.some((candidate) => candidate.id === id));
    const selection = place.selection && place.selection.end <= length ? place.selection : undefined;
    const same = sheet?.id === place.sheetId && block?.id === place.blockId && gap === place.gap;
    if (same && also.length === place.also.length && selection === place.selection) return;
    this.subject.next({ ...place, sheetId: sheet?.id ?? '', blockId: block?.id, gap, also, selection });
  }
}
