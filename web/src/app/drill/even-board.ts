import { ChangeDetectionStrategy, Component, type ElementRef, computed, input, output, signal, viewChildren } from '@angular/core';
import { type EvenExercise, oneOf } from '@jentrix/core/drill';
import type { Answer } from '@jentrix/core/drill/kept';
import { DrillLetters, roomFor, widthAt } from './drill-letters';

const WHICH = ['first', 'second'] as const;

/** Two settings of one word: which is more even? */
@Component({
  selector: 'jx-even-board',
  imports: [DrillLetters],
  template: `
    @for (which of settings; track which) {
      <button
        #one
        type="button"
        class="setting"
        [disabled]="!!done()"
        [class.answer]="done() && which === exercise().answer"
        [class.missed]="done() && which === picked() && which !== exercise().answer"
        (click)="choose(which)"
        (keydown)="key($event)"
      >
        <kbd aria-hidden="true">{{ $index + 1 }}</kbd>
        <span i18n="@@evenBoard.theSetting" class="visually-hidden">The {{ which }} setting</span>
        <svg [attr.viewBox]="room()" preserveAspectRatio="xMidYMid meet" aria-hidden="true">
          <g [jxDrillLetters]="exercise().line" [places]="exercise()[which]"></g>
        </svg>
        <span class="said">
          @if (done()) {
            {{ which === exercise().answer ? 'more even' : 'uneven by ' + exercise().by + '/1000 em more' }}
          }
        </span>
      </button>
    }
  `,
  styleUrl: './board.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EvenBoard {
  readonly exercise = input.required<EvenExercise>();
  readonly done = input<Answer>();
  readonly answered = output<Answer>();

  private readonly elements = viewChildren<ElementRef<HTMLButtonElement>>('one');
  protected readonly settings = WHICH;
  protected readonly picked = signal<(typeof WHICH)[number] | undefined>(undefined);
  protected readonly room = computed(() => roomFor([this.exercise().line], { widest: widthAt(this.exercise().line, this.exercise().first) }));

  focus(): void {
    this.elements()[0]?.nativeElement.focus();
  }

  protected choose(which: (typeof WHICH)[number]): void {
    this.picked.set(which);
    this.answered.emit(oneOf(this.exercise(), which));
  }

  protected key(event: KeyboardEvent): void {
    const at: Readonly<Record<string, number>> = { ArrowUp: 0, ArrowDown: 1 };
    const which = WHICH[Number(event.key) - 1];
    if (which) this.choose(which);
    else if (at[event.key] !== undefined) this.elements()[at[event.key] ?? 0]?.nativeElement.focus();
    else return;
    event.preventDefault();
  }
}
