import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { NgIcon, provideIcons } from '@ng-icons/core';
import { bootstrapEyedropper } from '@ng-icons/bootstrap-icons';

/** A colour: chosen in the browser's own way, or, where that is offered, taken from the sheet. */
@Component({
  selector: 'jx-colour',
  imports: [NgIcon],
  providers: [provideIcons({ bootstrapEyedropper })],
  template: `
    <input
      #field
      type="color"
      class="form-control form-control-sm form-control-color"
      [attr.aria-label]="label()"
      [title]="label()"
      [value]="value()"
      (input)="changed.emit(field.value)"
      (change)="settled.emit()"
    />
    @if (pickable()) {
      <button
        type="button"
        class="btn btn-link btn-sm"
        [attr.aria-label]="label() + ': ' + fromSheet"
        [title]="fromSheet"
        [attr.aria-pressed]="picking()"
        (click)="pick.emit()"
      >
        <ng-icon name="bootstrapEyedropper" aria-hidden="true" />
      </button>
    }
    <ng-content />
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px;
    }
    input {
      flex: none;
      width: 44px;
      padding: 2px;
    }
    button {
      padding: 2px 5px;
      line-height: 1;
      border-radius: 3px;
    }
    button[aria-pressed='true'] {
      background: var(--jx-ink);
      color: var(--jx-sheet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColourField {
  readonly label = input.required<string>();
  /** `#rrggbb` */
  readonly value = input.required<string>();
  /** Offers to take the colour from the sheet. */
  readonly pickable = input(false);
  readonly picking = input(false);
  readonly changed = output<string>();
  /** The colour that was being chosen is chosen. */
  readonly settled = output();
  readonly pick = output();
  protected readonly fromSheet = 'pick from the sheet';
}
