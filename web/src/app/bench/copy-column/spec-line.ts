import { ChangeDetectionStrategy, Component, type ElementRef, computed, inject, input, signal, viewChild } from '@angular/core';
import { type Block, type Job, SpecError, applySpec, facesFor, parseSpec, specOf } from '@jentrix/core/job';
import { EngineService } from '../../engine/engine.service';
import { BenchStore } from '../bench.store';
import { UserPreferences } from '../../settings/user-preferences';

/** Words a spec line knows. */
const WORDS = ['left', 'centre', 'right', 'word', 'caps', 'smallcaps', 'titlecase', 'typed', 'wide', 'tall', 'auto'];
let lists = 0;

/** A block's settings in trade notation, shown and typed into. */
@Component({
  selector: 'jx-spec-line',
  template: `
    <input
      #field
      class="spec"
      spellcheck="false"
      autocomplete="off"
      [attr.aria-label]="label()"
      title="Face, size/leading, tracking, word space, align; any part alone"
      [value]="typed() ?? printed()"
      [class.wrong]="error()"
      [attr.aria-invalid]="error() !== undefined"
      [attr.list]="listId"
      [attr.data-live]="typed() === undefined ? '' : null"
      (focus)="field.select()"
      (input)="typed.set(field.value); error.set(undefined)"
      (keydown.enter)="commit()"
      (keydown.escape)="revert($event)"
      (blur)="commit()"
    />
    <datalist [id]="listId">
      @for (completion of completions(); track completion) {
        <option [value]="completion"></option>
      }
    </datalist>
    @if (error(); as error) {
      <p class="error" role="alert">{{ error }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .spec {
      width: 100%;
      height: 26px;
      padding: 0 6px;
      border: 1px solid var(--jx-edge);
      border-radius: 3px;
      background: var(--jx-ground);
      color: var(--jx-ink);
      text-overflow: ellipsis;
    }
    .wrong {
      border-color: var(--jx-tight);
    }
    .error {
      margin: 4px 0 0;
      color: var(--jx-tight);
      font-size: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SpecLine {
  /** Which block's it is. */
  readonly label = input('Spec line');
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly preferences = inject(UserPreferences);
  private readonly faces = this.engine.list;
  readonly block = input.required<Block>();
  protected readonly listId = `jx-spec-${++lists}`;

  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly error = signal<string | undefined>(undefined);
  protected readonly printed = computed(() => specOf(this.block(), this.faces().items));

  /** The completions of the words typed so far: faces first, then what has not been said. */
  protected readonly completions = computed(() => {
    const typed = this.typed();
    if (typed === undefined) return [];
    const head = /^(.*?)(\S*)$/.exec(typed);
    const [, before = '', word = ''] = head ?? [];
    const names = this.faces()
      .items.map(({ family, style }) => `${family} ${style}`)
      .filter((name) => name.toLowerCase().startsWith(typed.toLowerCase()));
    if (names.length > 0 || before.trim() === '') return names.slice(0, 12);
    return WORDS.filter((candidate) => word !== '' && candidate.startsWith(word.toLowerCase())).map((candidate) => before + candidate);
  });

  /** Applies what was typed as one step; what can't be read stays, with the word that is wrong selected. */
  protected commit(): void {
    const text = this.typed();
    if (text === undefined) return;
    if (text.trim() === this.printed()) {
      this.typed.set(undefined);
      return;
    }
    const { id, style } = this.block();
    try {
      const spec = parseSpec(text, {
        faces: facesFor(this.block(), this.faces().items),
        sizePt: style.sizePt,
        autoFactor: this.preferences.current.autoLeadingFactor,
      });
      this.store.apply((job: Job) => applySpec(job, id, spec));
      this.typed.set(undefined);
      this.error.set(undefined);
    } catch (error) {
      if (!(error instanceof SpecError)) throw error;
      this.error.set(error.message);
      const { nativeElement } = this.field();
      if (document.activeElement === nativeElement) nativeElement.setSelectionRange(error.index, error.index + error.word.length);
    }
  }

  /** Backs out of the typing, and of nothing else. */
  protected revert(event: Event): void {
    if (this.typed() === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    this.typed.set(undefined);
    this.error.set(undefined);
    const { nativeElement } = this.field();
    nativeElement.value = this.printed();
    nativeElement.select();
  }
}
