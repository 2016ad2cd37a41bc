import { Injectable, signal } from '@angular/core';
import { untilReleased } from '../../ui/until-released';

/** Whether punctuation is faded on the sheet and in the deck, to see the true shape of the words. */
@Injectable()
export class FadedMarks {
  private readonly held = signal(false);
  readonly faded = this.held.asReadonly();

  /** Fades marks until a key is released. */
  hold(): void {
    if (this.held()) return;
    this.held.set(true);
    untilReleased(() => this.held.set(false));
  }

  toggle(): void {
    this.held.update((held) => !held);
  }
}
