import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type ColourPlace, withColour } from '@jentrix/core/job';
import { ColourField } from '../../../ui/colour-field';
import { BenchStore } from '../../bench.store';

/** The colour of one place of the style: chosen, or taken from the sheet. */
@Component({
  selector: 'jx-place-colour',
  imports: [ColourField],
  template: `
    <jx-colour
      [label]="label()"
      [value]="value()"
      [pickable]="true"
      [picking]="picking()"
      (changed)="paint($event)"
      (settled)="store.endGesture()"
      (pick)="store.pickColour(place())"
    >
      <ng-content />
    </jx-colour>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceColour {
  protected readonly store = inject(BenchStore);
  private readonly view = this.store.current.view;
  readonly place = input.required<ColourPlace>();
  readonly label = input.required<string>();
  /** `#rrggbb` */
  readonly value = input.required<string>();
  protected readonly picking = computed(() => this.view().picking === this.place());

  /** While a colour is being chosen, all of it is one step. */
  protected paint(colour: string): void {
    const { style } = this.store;
    if (style) this.store.applyStyle(withColour(style, this.place(), colour), `colour-${this.place()}`);
  }
}
