import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { PICKS, type WordRange, findBlock, visibleLetters } from '@jentrix/core/job';
import { BehaviorSubject } from 'rxjs';
import { JobHistory } from './job-history';
import { PlaceService } from './place';

/** How a letter is picked: alone, with those picked already, or with all from the one picked last. */
export type PickMode = 'alone' | 'also' | 'through';

/** Letters of the current block that are picked, wherever they stand: settings go to each of them. */
@Injectable()
export class LetterPicks {
  private readonly history = inject(JobHistory);
  private readonly place = inject(PlaceService);
  private readonly subject = new BehaviorSubject<readonly WordRange[]>([]);
  /** Where picking began, and the words that it was begun in. */
  private from = 0;
  private blockId: string | undefined;
  private words = '';

  /** In the order of the words. */
  readonly picks$ = this.subject.asObservable();
  readonly picked = toSignal(this.picks$, { requireSync: true });

  constructor() {
    // Other words, or another block: what was picked is no longer meant.
    this.place.place$.pipe(takeUntilDestroyed()).subscribe(({ blockId }) => blockId !== this.blockId && this.clear());
    this.history.job$.pipe(takeUntilDestroyed()).subscribe(() => this.block?.words !== this.words && this.clear());
  }

  get value(): readonly WordRange[] {
    return this.subject.value;
  }

  private get block(): { id: string; words: string } | undefined {
    const { job } = this.history;
    const { blockId } = this.place.value;
    return job && blockId !== undefined ? findBlock(job, blockId) : undefined;
  }

  /** Picks the letter that begins at an offset of the current block's words; one that is picked already is unpicked among others. */
  pick(at: number, mode: PickMode = 'alone'): void {
    const letters = this.letters;
    const letter = letters.find(({ start, end }) => at >= start && at < end);
    if (!letter) return;
    const has = this.value.some(({ start }) => start === letter.start);
    if (mode === 'through') {
      const [first, last] = [Math.min(this.from, letter.start), Math.max(this.from, letter.start)];
      this.take(letters.filter(({ start }) => start >= first && start <= last));
      return;
    }
    this.from = letter.start;
    if (mode === 'also') this.take(has ? this.value.filter(({ start }) => start !== letter.start) : [...this.value, letter]);
    else this.take([letter]);
  }

  /** Picks just these letters; blanks among them are left out. */
  pickAll(letters: readonly WordRange[]): void {
    const wanted = new Set(letters.map(({ start }) => start));
    this.take(this.letters.filter(({ start }) => wanted.has(start)));
  }

  /** Picks letters by kind (`PICKS`). */
  pickKind(id: string): void {
    const { block } = this;
    const kind = PICKS.find((one) => one.id === id);
    if (block && kind) this.take(kind.of(block.words, this.value));
  }

  /** Picks the next letter (1) or the one before (-1); with those from where picking began. */
  walk(step: 1 | -1, through: boolean): void {
    const letters = this.letters;
    const ends = this.value.map(({ start }) => start);
    // Walking with the others goes on from the far end.
    const at =
      through && ends.length > 0
        ? step === 1 && ends[0] === this.from
          ? ends[ends.length - 1]
          : ends[0] === this.from
            ? ends[ends.length - 1]
            : ends[0]
        : ends[0];
    const index = letters.findIndex(({ start }) => start === at);
    const next = index < 0 ? letters[step === 1 ? 0 : letters.length - 1] : letters[index + step];
    if (next) this.pick(next.start, through && index >= 0 ? 'through' : 'alone');
  }

  clear(): void {
    this.blockId = this.place.value.blockId;
    this.words = this.block?.words ?? '';
    if (this.value.length > 0) this.subject.next([]);
  }

  private get letters(): WordRange[] {
    return visibleLetters(this.block?.words ?? '');
  }

  private take(letters: readonly WordRange[]): void {
    this.blockId = this.place.value.blockId;
    this.words = this.block?.words ?? '';
    this.subject.next([...letters].sort((a, b) => a.start - b.start));
  }
}
