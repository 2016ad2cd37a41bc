import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { parseLength } from '@jentrix/core/units';
import { showValue } from './numbers';
import { type ValueChange, ValueField } from './value-field';

/** A share as people read and type it: in percent. Its value and its limits are shares. */
@Component({
  selector: 'jx-percent',
  imports: [ValueField],
  template: `
    <jx-value
      unit="%"
      [label]="label()"
      [bare]="bare()"
      [value]="share() * 100"
      [min]="least() * 100"
      [max]="most() * 100"
      [fine]="fine() * 100"
      [coarse]="fine() * 500"
      [print]="print"
      [parse]="parse"
      (changed)="changed.emit({ value: $event.value / 100, gesture: $event.gesture })"
    />
  `,
  styles: `
    :host {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PercentField {
  readonly label = input.required<string>();
  readonly share = input.required<number>();
  readonly bare = input(false);
  readonly least = input(0);
  readonly most = input(1);
  /** The fine step; the coarse is five times that. */
  readonly fine = input(0.05);
  readonly changed = output<ValueChange>();

  protected readonly print = (value: number): string => showValue(value, 2);
  protected readonly parse = (text: string): number => parseLength(text.replace('%', ''));
}
