import { Injectable, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import type { Block } from '@jentrix/core/job';
import { BehaviorSubject } from 'rxjs';
import { PlaceService } from '../../state/place';

/** The panels of the Words deck: the block's words, its colour and effects, or the sheet. */
export type WordsPanel = 'words' | 'colour' | 'sheet';

/** The state of the Words pass. */
@Injectable()
export class WordsState {
  private readonly place = inject(PlaceService);
  private readonly subject = new BehaviorSubject<WordsPanel>('words');

  readonly panel$ = this.subject.asObservable();
  readonly panel = toSignal(this.panel$, { requireSync: true });
  /** The block whose settings were copied, to be given to others. */
  readonly kept = signal<Block | undefined>(undefined);

  constructor() {
    this.place.again$.pipe(takeUntilDestroyed()).subscribe((pass) => pass === 'words' && this.subject.next('words'));
  }

  /** Shows one side of the deck. */
  show(panel: WordsPanel): void {
    this.place.go({ pass: 'words' });
    this.subject.next(panel);
  }
}
