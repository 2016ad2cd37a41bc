import { ChangeDetectionStrategy, Component, type ElementRef, computed, inject, input, linkedSignal, output, viewChild } from '@angular/core';
import { type LeadingExercise, led } from '@jentrix/core/drill';
import type { Answer } from '@jentrix/core/drill/kept';
import { UserPreferences } from '../settings/user-preferences';
import { pressAndDrag } from '../ui/press-and-drag';
import { DrillLetters, roomFor, widthAt } from './drill-letters';

/** The farthest that lines can be led here, in thousandths of their size. */
const LEAST = 500;
const MOST = 2000;

/** Two lines, and two others whose leading is to be made the same. */
@Component({
  selector: 'jx-leading-board',
  imports: [DrillLetters],
  template: `
    <svg #board [attr.viewBox]="room()" preserveAspectRatio="xMidYMid meet">
      <g [jxDrillLetters]="exercise().line" [places]="exercise().line.designer"></g>
      <g [attr.transform]="'translate(0 ' + exercise().answer + ')'">
        <g [jxDrillLetters]="exercise().below" [places]="exercise().below.designer"></g>
      </g>
      <g [attr.transform]="'translate(' + across() + ' 0)'">
        <g [jxDrillLetters]="exercise().own[0]" [places]="exercise().own[0].designer"></g>
        @if (done()) {
          <g class="ghosts" [attr.transform]="'translate(0 ' + exercise().answer + ')'">
            <g [jxDrillLetters]="exercise().own[1]" [places]="exercise().own[1].designer"></g>
          </g>
        }
        <g
          #mover
          class="mover"
          role="slider"
          [attr.tabindex]="done() ? null : 0"
          aria-orientation="vertical"
          aria-label="Leading of the second line"
          [attr.aria-valuenow]="leading()"
          [attr.aria-valuetext]="leading() / 10 + ' percent of the size'"
          [attr.transform]="'translate(0 ' + leading() + ')'"
          (pointerdown)="press($event)"
          (keydown)="key($event)"
        >
          <rect
            class="handle"
            x="-60"
            [attr.y]="-exercise().line.capHeight - 60"
            [attr.width]="ownWidth() + 120"
            [attr.height]="exercise().line.capHeight + 220"
          />
          <g [jxDrillLetters]="exercise().own[1]" [places]="exercise().own[1].designer"></g>
        </g>
      </g>
    </svg>
    @if (done()) {
      <p i18n="@@leadingBoard.yoursTheModelOfThe" class="said" aria-live="polite">
        Yours {{ percent(leading()) }}, the model {{ percent(exercise().answer) }} of the size: {{ says() }}.
      </p>
    }
  `,
  styleUrl: './board.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LeadingBoard {
  readonly exercise = input.required<LeadingExercise>();
  readonly done = input<Answer>();
  readonly answered = output<Answer>();

  private readonly board = viewChild<ElementRef<SVGSVGElement>>('board');
  private readonly mover = viewChild<ElementRef<SVGGElement>>('mover');
  private readonly preferences = inject(UserPreferences).preferences;
  protected readonly leading = linkedSignal(() => this.exercise().dealt);
  protected readonly across = computed(() => Math.max(...[this.exercise().line, this.exercise().below].map((line) => widthAt(line, line.designer))) + 700);
  protected readonly ownWidth = computed(() => Math.max(...this.exercise().own.map((line) => widthAt(line, line.designer))));
  protected readonly room = computed(() => {
    const { line, below, own } = this.exercise();
    return roomFor([line, below, ...own], { widest: this.across() + this.ownWidth(), last: 1700 });
  });
  protected readonly says = computed(() => {
    const off = Math.round(this.leading() - this.exercise().answer);
    return off === 0 ? 'the same' : `${percent(Math.abs(off))} too ${off > 0 ? 'far apart' : 'close'}`;
  });

  answer(): void {
    this.answered.emit(led(this.exercise(), this.leading()));
  }

  focus(): void {
    this.mover()?.nativeElement.focus();
  }

  protected percent(thousandths: number): string {
    return percent(thousandths);
  }

  protected press(event: PointerEvent): void {
    const [element, matrix] = [this.mover()?.nativeElement, this.board()?.nativeElement.getScreenCTM()];
    if (!element || !matrix || this.done() || event.button !== 0) return;
    event.preventDefault();
    element.focus();
    const [from, began] = [event.clientY, this.leading()];
    pressAndDrag(element, event, { move: ({ clientY }) => this.lead(began + (clientY - from) / matrix.d), end: () => undefined });
  }

  protected key(event: KeyboardEvent): void {
    const { fineMilliem, coarseMilliem } = this.preferences();
    const step = event.shiftKey ? coarseMilliem : fineMilliem;
    const by: Readonly<Record<string, number>> = { ArrowUp: -step, ArrowDown: step };
    const moved = by[event.key];
    if (moved === undefined || this.done()) return;
    event.preventDefault();
    this.lead(this.leading() + moved);
  }

  private lead(to: number): void {
    this.leading.set(Math.max(LEAST, Math.min(MOST, Math.round(to))));
  }
}

const percent = (thousandths: number): string => `${Math.round(thousandths) / 10} %`;
