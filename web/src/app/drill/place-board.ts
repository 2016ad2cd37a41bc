import { ChangeDetectionStrategy, Component, type ElementRef, computed, inject, input, linkedSignal, output, viewChildren } from '@angular/core';
import { type PlaceExercise, aimOf, placed } from '@jentrix/core/drill';
import { type Answer, letterScore, scoreOf } from '@jentrix/core/drill/kept';
import { UserPreferences } from '../settings/user-preferences';
import { pressAndDrag } from '../ui/press-and-drag';
import { pixelOf, roomFor, widthAt } from './drill-letters';

/** Below the baseline, in pixels: room for what each letter is worth. */
const ROOM_BELOW = 56;

/** Letters to place between two that are given; then what each is worth, with ghosts of where it belongs. */
@Component({
  selector: 'jx-place-board',
  template: `
    <svg #board [attr.viewBox]="room()" preserveAspectRatio="xMidYMid meet">
      <line class="base" [attr.x1]="-120" [attr.x2]="width() + 120" y1="0" y2="0" />
      @if (done()) {
        <g class="ghosts" [class.measured]="beside() === 'measured'">
          @for (letter of letters(); track $index) {
            <path vector-effect="non-scaling-stroke" [attr.d]="letter.outline" [attr.transform]="'translate(' + letter.ghost + ' 0)'" />
          }
        </g>
      }
      @for (letter of letters(); track $index) {
        @if (letter.given || done()) {
          <g class="letter" [class.given]="letter.given" [attr.transform]="'translate(' + letter.x + ' 0)'">
            <path [attr.d]="letter.outline" />
            @if (letter.given) {
              <path class="stake" [attr.d]="'M' + letter.middle + ',' + foot() + ' l' + 6 * pixel() + ',' + 9 * pixel() + ' h' + -12 * pixel() + ' z'" />
            }
          </g>
        } @else {
          <g
            #mover
            class="letter mover"
            role="slider"
            tabindex="0"
            [attr.aria-label]="letter.text + ', letter ' + ($index + 1) + ' of ' + letters().length"
            [attr.aria-valuenow]="letter.x"
            [attr.aria-valuetext]="letter.x + ' thousandths of an em from the first letter'"
            [attr.transform]="'translate(' + letter.x + ' 0)'"
            (pointerdown)="press($event, $index)"
            (keydown)="key($event)"
          >
            <rect class="handle" [attr.x]="-10" [attr.width]="letter.advance + 20" [attr.y]="-top()" [attr.height]="top() + 220" />
            <path [attr.d]="letter.outline" />
            <rect class="under" [attr.x]="letter.middle - 9 * pixel()" [attr.y]="foot()" [attr.width]="18 * pixel()" [attr.height]="3 * pixel()" />
          </g>
        }
      }
      @if (done()) {
        @for (letter of letters(); track $index) {
          @if (!letter.given) {
            <text class="score" [attr.font-size]="18 * pixel()" [attr.x]="letter.x + letter.middle" [attr.y]="foot() + 18 * pixel()">{{ letter.score }}</text>
            <text [attr.font-size]="15 * pixel()" [attr.x]="letter.x + letter.middle" [attr.y]="foot() + 34 * pixel()">{{ letter.says }}</text>
          }
        }
      }
    </svg>
    <p class="visually-hidden" aria-live="polite">{{ spoken() }}</p>
  `,
  styleUrl: './board.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceBoard {
  readonly exercise = input.required<PlaceExercise>();
  /** The answer, once it was given. */
  readonly done = input<Answer>();
  /** The opinion shown by the ghosts. */
  readonly beside = input<'designer' | 'measured'>('designer');
  readonly answered = output<Answer>();

  private readonly movers = viewChildren<ElementRef<SVGGElement>>('mover');
  private readonly board = viewChildren<ElementRef<SVGSVGElement>>('board');
  private readonly preferences = inject(UserPreferences).preferences;
  protected readonly places = linkedSignal(() => [...this.exercise().dealt]);
  protected readonly top = computed(() => this.exercise().line.ascender);
  protected readonly width = computed(() => widthAt(this.exercise().line, aimOf(this.exercise().line)));
  protected readonly pixel = computed(() => pixelOf(this.width()));
  /** Under what hangs below the baseline. */
  protected readonly foot = computed(() => -this.exercise().line.descender * 0.4 + 8 * this.pixel());
  protected readonly room = computed(() => roomFor([this.exercise().line], { widest: this.width(), below: ROOM_BELOW * this.pixel() }));
  protected readonly letters = computed(() => {
    const { line } = this.exercise();
    const ghosts = line[this.beside()];
    return line.letters.map(({ text, outline, advance }, i) => {
      const x = this.places()[i] ?? 0;
      const off = Math.round((x - (ghosts[i] ?? 0)) * 10) / 10;
      const far = Math.round(Math.abs(off));
      return {
        text,
        outline,
        advance,
        x,
        off,
        given: i === 0 || i === line.letters.length - 1,
        middle: advance / 2,
        ghost: ghosts[i] ?? 0,
        score: Math.round(letterScore(off)),
        says: far === 0 ? 'there' : off < 0 ? `← ${far}` : `${far} →`,
      };
    });
  });
  protected readonly spoken = computed(() => {
    const done = this.done();
    if (!done) return '';
    const each = this.letters().filter(({ given }) => !given);
    return `${Math.round(scoreOf(done))} of 100. ${each.map(({ text, score, off }) => `${text} ${score}, ${sideOf(off)}`).join('. ')}`;
  });

  /** Scores the answer as it stands. */
  answer(): void {
    this.answered.emit(placed(this.exercise(), this.places()));
  }

  focus(): void {
    this.movers()[0]?.nativeElement.focus();
  }

  protected press(event: PointerEvent, index: number): void {
    const element = event.currentTarget;
    const matrix = this.board()[0]?.nativeElement.getScreenCTM();
    if (!(element instanceof SVGGElement) || !matrix || event.button !== 0) return;
    event.preventDefault();
    element.focus();
    const [from, began] = [event.clientX, this.places()[index] ?? 0];
    pressAndDrag(element, event, { move: ({ clientX }) => this.move(index, began + (clientX - from) / matrix.a), end: () => undefined });
  }

  protected key(event: KeyboardEvent): void {
    const movers = this.movers().map(({ nativeElement }) => nativeElement);
    const at = movers.findIndex((one) => one === document.activeElement);
    if (at < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
    const { fineMilliem, coarseMilliem } = this.preferences();
    const step = event.shiftKey ? coarseMilliem : fineMilliem;
    const along: Readonly<Record<string, number>> = { ArrowLeft: -step, ArrowRight: step };
    const other: Readonly<Record<string, number>> = { ArrowUp: -1, ArrowDown: 1 };
    const by = along[event.key];
    const next = other[event.key];
    if (by !== undefined) this.move(at + 1, (this.places()[at + 1] ?? 0) + by);
    else if (next !== undefined) movers[Math.max(0, Math.min(movers.length - 1, at + next))]?.focus();
    else return;
    event.preventDefault();
  }

  private move(index: number, to: number): void {
    // Letters stay on the board.
    const within = Math.max(-100, Math.min(this.width(), Math.round(to * 10) / 10));
    this.places.update((places) => places.map((place, i) => (i === index ? within : place)));
  }
}

const sideOf = (off: number): string => (off === 0 ? 'there' : `${Math.round(Math.abs(off))} too far ${off < 0 ? 'left' : 'right'}`);
