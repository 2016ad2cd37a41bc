import { ChangeDetectionStrategy, Component, ElementRef, type OnDestroy, afterNextRender, computed, inject, signal, viewChild, Injector } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { type Exercise, scoreAgainst } from '@jentrix/core/drill';
import { type Answer, EXERCISES, LEVELS, levelOf, scoreOf } from '@jentrix/core/drill/kept';
import { ApiError } from '../api/api.service';
import { EngineService } from '../engine/engine.service';
import { ask } from '../ui/ask-dialog';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { ToastService } from '../ui/toasts';
import { Places } from '../ui/places';
import { DrillRounds, type WantedExercise } from './drill.service';
import { EvenBoard } from './even-board';
import { GapBoard } from './gap-board';
import { LeadingBoard } from './leading-board';
import { PlaceBoard } from './place-board';
import { ProgressPanel } from './progress-panel';

/** The exercises as they are offered. */
const OFFERED: Readonly<Record<WantedExercise['kind'], { name: string; asks: string; keys: readonly (readonly [keys: readonly string[], says: string])[] }>> = {
  place: {
    name: 'Place the letters',
    asks: 'The first and last letters are fixed. Place the others so that all gaps look alike.',
    keys: [
      [['←', '→'], 'move'],
      [['Shift'], 'in larger steps'],
      [['↑', '↓'], 'another letter'],
    ],
  },
  even: { name: 'Which is more even?', asks: 'One word, set twice. Which is spaced more evenly?', keys: [[['1', '2'], 'choose']] },
  wrong: {
    name: 'Which gap is wrong?',
    asks: 'One gap is too open or too tight. Point at it.',
    keys: [
      [['←', '→'], 'another gap'],
      [['↵'], 'choose'],
    ],
  },
  leading: {
    name: 'Match the leading',
    asks: 'Match the leading of the lines on the left.',
    keys: [
      [['↑', '↓'], 'closer, farther'],
      [['Shift'], 'in larger steps'],
    ],
  },
  touch: {
    name: 'Find what touches',
    asks: 'One pair of letters touches. Point at it.',
    keys: [
      [['←', '→'], 'another gap'],
      [['↵'], 'choose'],
    ],
  },
};

/** Training the eye: exercises, what each answer is worth, and what all of them say. */
@Component({
  selector: 'jx-drill',
  imports: [EvenBoard, GapBoard, LeadingBoard, PlaceBoard, ProgressPanel, Places],
  templateUrl: './drill.page.html',
  styleUrl: './drill.page.scss',
  host: { '(document:keydown)': 'key($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrillPage implements OnDestroy {
  private readonly service = inject(DrillRounds);
  private readonly engine = inject(EngineService);
  private readonly modal = inject(NgbModal);
  private readonly toasts = inject(ToastService);
  private readonly injector = inject(Injector);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly board = viewChild<PlaceBoard | GapBoard | EvenBoard | LeadingBoard>('board');

  protected readonly kinds = EXERCISES.map((kind) => ({ kind, ...OFFERED[kind] }));
  protected readonly levels = LEVELS;
  protected readonly progress = this.service.progress;
  protected readonly waiting = this.service.unsent;
  protected readonly faces = this.engine.list;

  protected readonly wanted = signal<WantedExercise>({ kind: 'place', level: 'straight' });
  protected readonly exercise = signal<Exercise | undefined>(undefined);
  protected readonly answer = signal<Answer | undefined>(undefined);
  protected readonly trouble = signal('');
  /** While another is dealt, the one that is shown takes no answer. */
  protected readonly dealing = signal(false);
  private turn = 0;
  protected readonly beside = signal<'designer' | 'measured'>('designer');
  protected readonly ownWords = signal('');
  protected readonly ownFace = signal('');
  protected readonly clock = signal(false);
  protected readonly seconds = signal(0);

  protected readonly offered = computed(() => OFFERED[this.wanted().kind]);
  protected readonly levelName = computed(() => {
    const { level } = this.wanted();
    return level === 'own' ? 'Your own words' : levelOf(level).name;
  });
  protected readonly levelSays = computed(() => {
    const { level, pair } = this.wanted();
    if (pair !== undefined) return `Words with ${pair}.`;
    return level === 'own' ? '' : levelOf(level).says;
  });
  protected readonly faceName = computed(() => {
    const id = this.exercise()?.line.faceId;
    const face = this.faces().items.find((one) => one.id === id);
    return face ? `${face.family} ${face.style}` : '';
  });
  protected readonly said = computed(() => {
    const [exercise, answer] = [this.exercise(), this.answer()];
    if (!exercise || !answer) return undefined;
    const score = Math.round(scoreOf(answer));
    if (exercise.kind !== 'place' || answer.kind !== 'place') return { score, more: '' };
    // What was placed, beside the other opinion.
    const beside = scoreAgainst(exercise.line.aim === 'designer' ? 'measured' : 'designer', exercise, answer);
    const off = answer.letters.reduce((sum, letter) => sum + Math.abs(letter.off), 0) / answer.letters.length;
    const names = exercise.line.aim === 'designer' ? ['the designer’s', 'the measured'] : ['the measured', 'the designer’s'];
    return { score, more: `off by ${Math.round(off)}/1000 em on average from ${names[0]} spacing; against ${names[1]} ${Math.round(beside)}` };
  });

  private began = 0;
  private readonly ticking = setInterval(() => {
    if (this.clock() && this.exercise() && !this.answer()) this.seconds.set(Math.floor((Date.now() - this.began) / 1000));
  }, 250);

  constructor() {
    const { queryParamMap } = inject(ActivatedRoute).snapshot;
    const words = queryParamMap.get('words');
    this.ownWords.set(words?.slice(0, 80) ?? '');
    this.ownFace.set(queryParamMap.get('face') ?? '');
    void this.begin(words !== null);
  }

  ngOnDestroy(): void {
    clearInterval(this.ticking);
  }

  protected choose(change: Partial<WantedExercise>): void {
    const { kind, level } = { ...this.wanted(), ...change };
    this.wanted.set(level === 'own' ? { kind, level, own: this.own() } : { kind, level, pair: change.pair });
    void this.deal();
  }

  protected takeOwn(words: string, face: string): void {
    this.ownWords.set(words);
    this.ownFace.set(face);
    this.choose({ level: 'own' });
  }

  protected scoreOfLevel(id: string): number | undefined {
    const one = this.progress()?.levels.find(({ level }) => level === id);
    return one && one.count > 0 ? Math.round(one.score) : undefined;
  }

  /** Compares, then deals the next. */
  protected goOn(): void {
    const board = this.board();
    if (this.dealing()) return;
    if (this.answer() || this.trouble() !== '') void this.deal();
    else if (board instanceof PlaceBoard || board instanceof LeadingBoard) board.answer();
  }

  protected async take(answer: Answer): Promise<void> {
    const exercise = this.exercise();
    if (!exercise || this.answer() || this.dealing()) return;
    this.answer.set(answer);
    this.element.querySelector<HTMLElement>('.go-on')?.focus();
    await this.service.keep(exercise, answer, this.clock() ? (Date.now() - this.began) / 1000 : null);
    await this.refresh();
  }

  protected key(event: KeyboardEvent): void {
    const { target, key } = event;
    if (key !== 'Enter' || event.defaultPrevented || !(target instanceof Element)) return;
    if (target.closest('button, a, input, select, ngb-modal-window')) return;
    event.preventDefault();
    this.goOn();
  }

  protected async deal(): Promise<void> {
    const wanted = this.wanted();
    const turn = ++this.turn;
    this.dealing.set(true);
    try {
      const exercise = await this.service.deal(wanted);
      // Something else may have been asked for in the meantime.
      if (this.turn !== turn) return;
      this.trouble.set('');
      this.answer.set(undefined);
      this.exercise.set(exercise);
      this.beside.set(exercise.line.aim);
      this.began = Date.now();
      this.seconds.set(0);
      afterNextRender({ read: () => this.board()?.focus() }, { injector: this.injector });
    } catch (error) {
      if (this.turn !== turn) return;
      this.exercise.set(undefined);
      this.trouble.set(error instanceof Error && error.name === 'DrillError' ? error.message : 'The faces can’t be loaded: the server can’t be reached.');
    } finally {
      if (this.turn === turn) this.dealing.set(false);
    }
  }

  protected async forget(): Promise<void> {
    const yes = await ask(this.modal, {
      title: 'Clear all history?',
      lines: ['Scores, charts and advice start over. This can’t be undone.'],
      yes: 'Clear history',
    });
    if (yes !== undefined) await this.toasts.trying(() => this.service.forget());
  }

  private own(): WantedExercise['own'] {
    const faceId = this.faces().items.find(({ id }) => id === this.ownFace())?.id ?? this.faces().standInId;
    return { words: this.ownWords(), faceId };
  }

  private async begin(own: boolean): Promise<void> {
    await this.refresh();
    if (own) {
      // Which faces there are is known only then.
      await this.engine.engine().catch(() => undefined);
      this.choose({ level: 'own' });
      return;
    }
    const next = this.progress()?.advice.next;
    if (next) this.choose(next);
    else void this.deal();
  }

  private async refresh(): Promise<void> {
    try {
      await this.service.refresh();
    } catch (error) {
      // Exercises go on without the server; what waits for it is told.
      if (!(error instanceof ApiError)) throw error;
    }
  }
}
