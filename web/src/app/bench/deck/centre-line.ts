import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { AREAS, type Area, hasArea } from '@jentrix/core/placing';
import { BenchStore } from '../bench.store';

const NAMES: Readonly<Record<Area, string>> = { sheet: 'Sheet', margins: 'Margins', safe: 'Title-safe area', guides: 'Guides' };

/** Centres the picked blocks by the ink of the current one: on the sheet, in its areas, or in a box that is drawn. */
@Component({
  selector: 'jx-centre-line',
  template: `
    <span i18n="@@centreLine.centreByInk">Centre by ink</span>
    @for (area of areas(); track area) {
      <span class="pair">
        {{ nameOf(area) }}
        <button
          type="button"
          class="btn btn-link btn-sm"
          (click)="store.centreIn(area, 'x')"
          [attr.aria-label]="'Centre horizontally on ' + nameOf(area).toLowerCase()"
        >
          ↔
        </button>
        <button
          type="button"
          class="btn btn-link btn-sm"
          (click)="store.centreIn(area, 'y')"
          [attr.aria-label]="'Centre vertically on ' + nameOf(area).toLowerCase()"
        >
          ↕
        </button>
      </span>
    }
    <button
      i18n="@@centreLine.drawABox"
      i18n-title="@@centreLine.dragABoxOnThe"
      type="button"
      class="btn btn-link btn-sm"
      title="Drag a box on the picture to centre the words in it"
      [attr.aria-pressed]="drawing()"
      (click)="store.draw('box')"
    >
      Draw a box
    </button>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0 10px;
    }
    span {
      white-space: nowrap;
    }
    .pair {
      white-space: nowrap;
    }
    .btn {
      padding: 0 3px;
    }
    .btn[aria-pressed='true'] {
      background: var(--jx-ink);
      color: var(--jx-sheet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CentreLine {
  protected readonly store = inject(BenchStore);
  private readonly view = this.store.current.view;
  protected readonly drawing = computed(() => this.view().drawing === 'box');
  protected readonly areas = computed(() => {
    const sheet = this.store.current.sheet();
    return sheet ? AREAS.filter((area) => hasArea(sheet, area)) : [];
  });
  protected readonly nameOf = (area: Area): string => NAMES[area];
}
