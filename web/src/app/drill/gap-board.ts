import { ChangeDetectionStrategy, Component, type ElementRef, computed, input, output, signal, viewChildren } from '@angular/core';
import { type TouchExercise, type WrongExercise, aimOf, pointedAt } from '@jentrix/core/drill';
import type { Answer } from '@jentrix/core/drill/kept';
import { DrillLetters, pixelOf, roomFor, widthAt } from './drill-letters';

/** A word of which one gap is to be pointed at: the wrong one, or that of the two letters that touch. */
@Component({
  selector: 'jx-gap-board',
  imports: [DrillLetters],
  template: `
    <svg [attr.viewBox]="room()" preserveAspectRatio="xMidYMid meet">
      <line class="base" [attr.x1]="-120" [attr.x2]="width() + 120" y1="0" y2="0" />
      @if (done()) {
        <g class="ghosts" [jxDrillLetters]="exercise().line" [places]="right()"></g>
      }
      <g [jxDrillLetters]="exercise().line" [places]="exercise().places"></g>
      @for (gap of gaps(); track $index) {
        <g
          #gapEl
          class="gap"
          role="button"
          [attr.tabindex]="done() ? null : 0"
          [class.answer]="done() && $index === exercise().answer"
          [class.missed]="done() && $index === picked() && $index !== exercise().answer"
          [attr.aria-label]="'Gap ' + ($index + 1) + ' of ' + gaps().length + ', ' + gap.text"
          (click)="choose($index)"
          (keydown)="key($event)"
        >
          <rect class="handle" [attr.x]="gap.x - 90" [attr.y]="-top()" width="180" [attr.height]="top() + 200" />
          <path class="pointer" [attr.d]="'M' + gap.x + ',' + foot() + ' l' + 7 * pixel() + ',' + 12 * pixel() + ' h' + -14 * pixel() + ' z'" />
          @if (done() && $index === exercise().answer) {
            <text [attr.font-size]="15 * pixel()" [attr.x]="gap.x" [attr.y]="foot() + 28 * pixel()">{{ says() }}</text>
          }
        </g>
      }
    </svg>
  `,
  styleUrl: './board.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GapBoard {
  readonly exercise = input.required<WrongExercise | TouchExercise>();
  readonly done = input<Answer>();
  readonly answered = output<Answer>();

  private readonly elements = viewChildren<ElementRef<SVGGElement>>('gapEl');
  protected readonly picked = signal(-1);
  protected readonly top = computed(() => this.exercise().line.ascender);
  protected readonly width = computed(() => widthAt(this.exercise().line, this.exercise().places));
  protected readonly pixel = computed(() => pixelOf(this.width()));
  /** Under what hangs below the baseline. */
  protected readonly foot = computed(() => -this.exercise().line.descender * 0.4 + 8 * this.pixel());
  protected readonly room = computed(() => roomFor([this.exercise().line], { widest: this.width(), below: 44 * this.pixel() }));
  /** Where the letters belong: the first stands there. */
  protected readonly right = computed(() => (this.exercise().kind === 'wrong' ? aimOf(this.exercise().line) : this.exercise().places));
  protected readonly gaps = computed(() => {
    const { line, places } = this.exercise();
    return line.gaps.map(({ text }, i) => ({ text, x: ((places[i] ?? 0) + (line.letters[i]?.advance ?? 0) + (places[i + 1] ?? 0)) / 2 }));
  });
  protected readonly says = computed(() => {
    const exercise = this.exercise();
    if (exercise.kind === 'touch') return 'these touch';
    return `${Math.round(Math.abs(exercise.by))} too ${exercise.by > 0 ? 'open' : 'tight'}`;
  });

  focus(): void {
    this.elements()[0]?.nativeElement.focus();
  }

  protected choose(gap: number): void {
    if (this.done()) return;
    this.picked.set(gap);
    this.answered.emit(pointedAt(this.exercise(), gap));
  }

  protected key(event: KeyboardEvent): void {
    const elements = this.elements().map(({ nativeElement }) => nativeElement);
    const at = elements.findIndex((one) => one === document.activeElement);
    if (at < 0 || this.done()) return;
    const by: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1 };
    const next = by[event.key];
    if (next !== undefined) elements[Math.max(0, Math.min(elements.length - 1, at + next))]?.focus();
    else if (event.key === 'Enter' || event.key === ' ') this.choose(at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}
