import { ChangeDetectionStrategy, Component, type ElementRef, computed, inject, input, signal, viewChild } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Block, type Job, type Style, setAlign, setLeading, setStyle } from '@jentrix/core/job';
import { type NamedFace, SpecError, parseSpec, printSpec } from '@jentrix/core/units';
import { EngineService } from '../../engine/engine.service';
import { BenchStore } from '../bench.store';

/** A block's settings in trade notation, shown and typed into. */
@Component({
  selector: 'jx-spec-line',
  template: `
    <input
      #field
      class="spec"
      spellcheck="false"
      autocomplete="off"
      aria-label="Spec line"
      i18n-aria-label
      title="Face, size/leading, tracking, word space, align; any part alone"
      i18n-title
      [value]="typed() ?? printed()"
      [class.wrong]="error()"
      [attr.aria-invalid]="error() !== undefined"
      (focus)="field.select()"
      (input)="typed.set(field.value); error.set(undefined)"
      (keydown.enter)="commit()"
      (keydown.escape)="revert($event)"
      (blur)="commit()"
    />
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
      border: 1px solid var(--jx-rule);
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
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly faces = toSignal(this.engine.faces$, { requireSync: true });
  readonly block = input.required<Block>();

  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly error = signal<string | undefined>(undefined);
  protected readonly printed = computed(() => {
    const { style, leading, align } = this.block();
    const face: NamedFace = this.faces().items.find(({ id }) => id === style.faceId) ?? { id: style.faceId, family: style.faceId, style: '' };
    return printSpec(face, { ...style, leading, align });
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
      const spec = parseSpec(text, this.faces().items, style.sizePt);
      const change: Partial<Style> = {};
      if (spec.faceId !== undefined) change.faceId = spec.faceId;
      if (spec.sizePt !== undefined) change.sizePt = spec.sizePt;
      if (spec.trackingMilliem !== undefined) change.trackingMilliem = spec.trackingMilliem;
      if (spec.wordSpaceMilliem !== undefined) change.wordSpaceMilliem = spec.wordSpaceMilliem;
      const { leading, align } = spec;
      this.store.apply((job: Job) => {
        let next = setStyle(job, id, change);
        if (leading) next = setLeading(next, id, leading);
        if (align) next = setAlign(next, id, align);
        return next;
      });
      this.typed.set(undefined);
      this.error.set(undefined);
    } catch (error) {
      if (!(error instanceof SpecError)) throw error;
      this.error.set(error.message);
      const { nativeElement } = this.field();
      if (document.activeElement === nativeElement) nativeElement.setSelectionRange(error.index, error.index + error.word.length);
    }
  }

  protected revert(event: Event): void {
    event.stopPropagation();
    this.typed.set(undefined);
    this.error.set(undefined);
    const { nativeElement } = this.field();
    nativeElement.value = this.printed();
    nativeElement.blur();
  }
}
