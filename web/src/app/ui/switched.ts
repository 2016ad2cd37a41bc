import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** An effect that is on or off; what it is made of shows while it is on. */
@Component({
  selector: 'jx-switched',
  template: `
    <label>
      <input type="checkbox" [attr.data-testid]="name() || null" [checked]="on()" (change)="switched.emit(!on())" />
      {{ label() }}
    </label>
    @if (on()) {
      <ng-content />
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 4px;
    }
    label {
      display: inline-flex;
      gap: 6px;
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Switched {
  readonly label = input.required<string>();
  readonly on = input.required<boolean>();
  /** Names the box for tests. */
  readonly name = input('');
  readonly switched = output<boolean>();
}
