import { ChangeDetectionStrategy, Component, type ElementRef, computed, input, output, signal, viewChild } from '@angular/core';
import { UnitError, parseLength } from '@jentrix/core/units';
import { showValue } from './numbers';
import { pressAndDrag } from './press-and-drag';

/** A change of a value, and the gesture it belongs to: changes of one gesture are one step of undo. */
export interface ValueChange {
  value: number;
  gesture: string;
}

let gestures = 0;

/**
 * A number with its unit: typed in any unit the reader knows, stepped with the arrow keys, scrubbed by dragging the label.
 * Escape gives the old value back; every change shows at once.
 */
@Component({
  selector: 'jx-value',
  template: `
    <label
      i18n-title="@@valueField.dragToChange"
      class="name"
      [class.visually-hidden]="bare()"
      [attr.for]="fieldId"
      title="Drag to change"
      (pointerdown)="startScrub($event)"
    >
      {{ label() }}
    </label>
    <input
      #field
      [id]="fieldId"
      class="form-control form-control-sm"
      autocomplete="off"
      spellcheck="false"
      data-live
      [value]="shown()"
      [class.is-invalid]="error() !== undefined"
      [attr.aria-invalid]="error() !== undefined"
      [attr.aria-describedby]="fieldId + '-unit'"
      [attr.title]="error() ?? null"
      (focus)="field.select()"
      (input)="type(field.value)"
      (blur)="commit()"
      (keydown)="key($event)"
    />
    <span class="unit" [id]="fieldId + '-unit'">{{ unit() }}</span>
    @if (error(); as message) {
      <span class="message" role="alert">{{ message }}</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(64px, 1fr) 72px 44px;
      align-items: center;
      column-gap: 6px;
      min-height: 28px;
    }
    :host(.bare) {
      grid-template-columns: minmax(40px, 1fr) 14px;
      min-height: 24px;
    }
    .name {
      cursor: ew-resize;
      user-select: none;
      touch-action: none;
      white-space: nowrap;
    }
    .name:hover {
      color: var(--jx-accent);
    }
    input {
      text-align: right;
      padding-right: 6px !important;
      background-image: none !important;
    }
    .unit {
      color: var(--jx-quiet);
      font-size: 12px;
      white-space: nowrap;
    }
    .message {
      grid-column: 1 / -1;
      color: var(--jx-tight);
      font-size: 12px;
    }
  `,
  host: { '[class.bare]': 'bare()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ValueField {
  readonly label = input.required<string>();
  readonly value = input.required<number>();
  readonly unit = input('');
  /** In a table, whose headings say what it is: the label is for those who don't see them. */
  readonly bare = input(false);
  readonly fine = input(1);
  readonly coarse = input(10);
  readonly min = input(Number.NEGATIVE_INFINITY);
  readonly max = input(Number.POSITIVE_INFINITY);
  readonly print = input<(value: number) => string>((value) => showValue(value));
  /** Reads what was typed; throws a UnitError whose message people see. */
  readonly parse = input<(text: string) => number>((text) => parseLength(text));
  readonly changed = output<ValueChange>();
  /** Enter was pressed and what was typed is taken. */
  readonly entered = output();

  protected readonly fieldId = `jx-value-${++gestures}`;
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly error = signal<string | undefined>(undefined);
  protected readonly shown = computed(() => this.typed() ?? this.print()(this.value()));
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  private scrubbing: { x: number; from: number; gesture: string; moved: boolean } | undefined;
  private held: string | undefined;

  /** Puts the caret into the field; characters that were typed elsewhere replace its value, or follow those already typed. */
  focus(characters?: string): void {
    const { nativeElement } = this.field();
    nativeElement.focus();
    if (characters === undefined) return;
    const text = (this.typed() ?? '') + characters;
    nativeElement.value = text;
    this.type(text);
    nativeElement.setSelectionRange(text.length, text.length);
  }

  /** While something is typed the keys are the field's: from here on, and not from when the page is drawn next, since an undo may follow at once. */
  protected type(text: string | undefined): void {
    this.typed.set(text);
    this.field().nativeElement.toggleAttribute('data-live', text === undefined);
  }

  protected key(event: KeyboardEvent): void {
    switch (event.key) {
      case 'ArrowUp':
      case 'ArrowDown': {
        event.preventDefault();
        if (!event.repeat) this.held = `value-${++gestures}`;
        if (!this.commit()) return;
        const step = event.shiftKey ? this.coarse() : this.fine();
        this.emit(this.value() + (event.key === 'ArrowUp' ? step : -step), this.held ?? `value-${++gestures}`);
        return;
      }
      case 'Enter':
        if (!this.commit()) return;
        this.field().nativeElement.select();
        this.entered.emit();
        return;
      case 'Escape':
        // Backs out of the typing first, and of nothing else.
        if (this.typed() === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        this.type(undefined);
        this.error.set(undefined);
        return;
      default:
    }
  }

  /** Takes what was typed. @returns false while it can't be understood. */
  protected commit(): boolean {
    const text = this.typed();
    if (text === undefined) return true;
    try {
      const value = this.parse()(text);
      if (value < this.min() || value > this.max()) throw new UnitError(`Between ${this.print()(this.min())} and ${this.print()(this.max())}.`);
      this.type(undefined);
      this.error.set(undefined);
      if (value !== this.value()) this.emit(value, `value-${++gestures}`);
      return true;
    } catch (error) {
      if (!(error instanceof UnitError)) throw error;
      this.error.set(error.message);
      return false;
    }
  }

  protected startScrub(event: PointerEvent): void {
    if (event.button !== 0) return;
    event.preventDefault();
    pressAndDrag(event.target as Element, event, { move: (moved) => this.scrub(moved), end: () => this.endScrub() });
    this.scrubbing = { x: event.clientX, from: this.value(), gesture: `value-${++gestures}`, moved: false };
  }

  /** Three pixels are one fine step; with Shift, one coarse. */
  private scrub(event: PointerEvent): void {
    const { scrubbing } = this;
    if (!scrubbing) return;
    const steps = Math.round((event.clientX - scrubbing.x) / 3);
    if (steps !== 0) scrubbing.moved = true;
    if (scrubbing.moved) this.emit(scrubbing.from + steps * (event.shiftKey ? this.coarse() : this.fine()), scrubbing.gesture);
  }

  private endScrub(): void {
    if (this.scrubbing && !this.scrubbing.moved) this.focus();
    this.scrubbing = undefined;
  }

  private emit(value: number, gesture: string): void {
    const clamped = Math.min(this.max(), Math.max(this.min(), Math.round(value * 1e6) / 1e6));
    this.changed.emit({ value: clamped, gesture });
  }
}
