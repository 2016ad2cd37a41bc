import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { type BlockDrawing, drawGround } from '@jentrix/core/drawing';
import { Drawing, svgTransform } from '../../drawing/drawing';
import { BenchStore } from '../bench.store';
import { Instead, type ShownSheet } from '../state/instead';

/** The other sheets of the job on the table, in a row with the one that is worked on; a click goes to one. */
@Component({
  selector: 'g[jxRow]',
  imports: [Drawing],
  template: `
    @for (one of instead.row(); track one.shown.sheet.id) {
      <svg:g
        class="other"
        role="button"
        tabindex="0"
        data-handle
        [attr.data-sheet]="one.shown.sheet.id"
        [attr.transform]="'translate(' + one.xPt + ' ' + one.yPt + ')'"
        [attr.aria-label]="'Work on ' + one.shown.sheet.name"
        (click)="go($event, one.shown)"
        (keydown.enter)="go($event, one.shown)"
      >
        <svg:g [jxDrawing]="groundOf(one.shown)"></svg:g>
        @for (set of one.shown.blocks; track set.block.id) {
          <svg:g [attr.transform]="turnOf(set)"><svg:g [jxDrawing]="draw()(set).nodes"></svg:g></svg:g>
        }
      </svg:g>
    }
  `,
  styles: `
    .other {
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetRow {
  /** Draws a block as it was set. */
  readonly draw = input.required<(one: ShownSheet['blocks'][number]) => BlockDrawing>({ alias: 'jxRow' });
  protected readonly instead = inject(Instead);
  private readonly store = inject(BenchStore);

  protected readonly groundOf = ({ sheet }: ShownSheet) => drawGround(sheet);
  protected turnOf(set: ShownSheet['blocks'][number]): string | null {
    return svgTransform(this.draw()(set));
  }

  protected go(event: Event, { sheet }: ShownSheet): void {
    event.stopPropagation();
    this.store.showSheet(sheet.id);
  }
}
